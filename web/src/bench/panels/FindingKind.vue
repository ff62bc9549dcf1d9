<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { useBench } from '@/stores/bench'
import { useCheck, type Kind } from '@/stores/check'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import FindingItem from './FindingItem.vue'

/** All findings of a kind: one alone as it is, several under a heading that opens. */
const props = defineProps<{ kind: Kind }>()
const w = words.check
const jobs = useJob()
const bench = useBench()
const check = useCheck()
/** Of many only so many are drawn until more are wanted. */
const STEP = 30
const many = ref(STEP)
const several = computed(() => props.kind.findings.length + props.kind.more > 1)
const holds = computed(() => props.kind.findings.some((f) => f.key === bench.picked))
const open = ref(holds.value)
watch(holds, (now) => now && (open.value = true))
const at = computed(() => props.kind.findings.findIndex((f) => f.key === bench.picked))
const shown = computed(() => props.kind.findings.slice(0, Math.max(many.value, at.value + 1)))
const mendable = computed(() => props.kind.findings.filter((f) => f.mendable).length)
const safe = computed(() => props.kind.findings.every((f) => f.safe))
</script>

<template>
  <li class="kind">
    <button v-if="several" class="heading" :aria-expanded="open" @click="open = !open">
      <span class="plate" :class="kind.level">{{ (kind.findings.length + kind.more).toLocaleString('en') }}</span>
      <span class="title">{{ kind.title }}</span>
      <span class="arrow" :class="{ up: open }" aria-hidden="true" />
    </button>
    <div v-if="several && open && mendable > 1" class="acts">
      <v-btn size="small" variant="outlined" :disabled="!!jobs.busy" @click="check.mendKind(kind)">
        {{ w.takeKind(mendable + kind.more) }}
      </v-btn>
      <span v-if="!safe" class="small care">{{ w.lookFirstKind }}</span>
    </div>
    <ul v-if="!several || open" class="items">
      <FindingItem v-for="finding in shown" :key="finding.key" :finding="finding" :inner="several" />
    </ul>
    <p v-if="several && open && shown.length < kind.findings.length" class="more">
      <button @click="many += 100">{{ w.showMore(kind.findings.length - shown.length) }}</button>
    </p>
    <p v-if="several && open && kind.more" class="small quiet more">{{ w.notListed(kind.more) }}</p>
  </li>
</template>

<style scoped>
.kind {
  border-bottom: 1px solid var(--rule);
}
.heading {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 12px;
  width: 100%;
  padding: 10px 18px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.heading:focus-visible {
  outline-offset: -3px;
}
.title {
  font-weight: 650;
}
.plate {
  min-width: 24px;
  padding: 0 7px;
  border-radius: 11px;
  font-size: 12.5px;
  font-weight: 700;
  line-height: 21px;
  text-align: center;
  color: var(--flag);
}
.plate.stops {
  background: var(--flag);
  color: var(--on-flag);
}
.plate.spoils {
  box-shadow: inset 0 0 0 1.6px var(--flag);
}
.plate.note {
  color: var(--ink-2);
  box-shadow: inset 0 0 0 1px var(--edge);
}
.arrow {
  width: 7px;
  height: 7px;
  border: solid var(--ink-2);
  border-width: 0 2px 2px 0;
  transform: rotate(45deg);
}
.arrow.up {
  transform: rotate(225deg);
}
.items {
  list-style: none;
  margin: 0;
  padding: 0;
}
.acts {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 18px 10px 54px;
}
.care {
  color: var(--flag);
}
.more {
  margin: 0;
  padding: 6px 18px 10px 54px;
}
.more button {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
</style>
