<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Finding } from '@/api/types'
import { faceLike, textOf } from '@/bench/lettering/found'
import { mm } from '@/composables/lengths'
import { useBench } from '@/stores/bench'
import { useCheck } from '@/stores/check'
import { useDraft } from '@/stores/draft'
import { useFaces } from '@/stores/faces'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import MendTiles from './MendTiles.vue'

/** One finding; picked it opens, with its mend before and after. inner: it stands under its kind's heading. */
const props = defineProps<{ finding: Finding; inner: boolean }>()
const w = words.check
const jobs = useJob()
const bench = useBench()
const check = useCheck()
const draft = useDraft()
const faces = useFaces()
const router = useRouter()
const root = ref<HTMLElement | null>(null)
const open = computed(() => bench.picked === props.finding.key)

/** What was measured, in one figure. */
const measure = computed(() => {
  const values = props.finding.measure as Record<string, number>
  const length = values.width_mm ?? values.gap_mm ?? values.length_mm ?? values.across_mm ?? values.beyond_mm
  if (values.area_mm2 !== undefined && length === undefined) return `${Number(values.area_mm2.toPrecision(2))} mm²`
  return length && props.finding.place ? `${mm(length)} mm` : ''
})
/** Text that a file holds as text can be set anew where it stood. */
const text = computed(() => textOf(props.finding))
async function set() {
  const values = text.value
  if (!values) return
  await faces.look(values.text, 20)
  draft.begin('words', {
    ...values,
    ...faceLike(String((props.finding.measure as Record<string, unknown>).family ?? ''), faces.shown?.faces ?? []),
  })
  await router.push({ name: 'bench', params: { job: jobs.job!.id, station: 'build' } })
}
// Its mend makes it longer when it comes.
watch(
  () => [open.value, open.value && bench.preview] as const,
  async ([now]) => {
    if (!now) return
    await nextTick()
    root.value?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)
</script>

<template>
  <li ref="root" class="item" :class="{ open, inner }">
    <button class="row" :aria-expanded="open" @click="bench.picked = open ? null : finding.key">
      <span class="plate" :class="finding.level">{{ finding.number }}</span>
      <span class="title" :class="{ plain: inner }">{{ inner ? finding.message : finding.title }}</span>
      <span class="small quiet measure">{{ measure }}</span>
    </button>
    <div v-if="open" class="more">
      <p v-if="!inner">{{ finding.message }}</p>
      <p class="quiet">{{ finding.effect }}</p>
      <fieldset v-if="finding.choices.length" class="choices">
        <legend class="small quiet">{{ w.which }}</legend>
        <label v-for="choice in finding.choices" :key="choice.id">
          <input
            v-model="check.choices[finding.id]"
            type="radio"
            :name="finding.key"
            :value="choice.id"
            :checked="check.chosen(finding) === choice.id"
          />
          {{ choice.label }}
        </label>
      </fieldset>
      <MendTiles v-if="bench.preview" :preview="bench.preview" />
      <p v-if="finding.mendable && !finding.safe" class="care small">{{ w.lookFirst }}</p>
      <div class="acts">
        <v-btn v-if="text" color="primary" :disabled="!!jobs.busy" @click="set">{{ words.lettering.setThese }}</v-btn>
        <v-btn v-if="finding.mendable" color="primary" :disabled="!!jobs.busy" @click="check.mend(finding)">
          {{ w.take }} <kbd class="key">m</kbd>
        </v-btn>
        <v-btn variant="text" :disabled="!!jobs.busy" @click="check.setAside(finding)">{{ w.setAside }} <kbd class="key">x</kbd></v-btn>
      </div>
    </div>
  </li>
</template>

<style scoped>
.item.open {
  background: var(--raised);
}
.inner > .row {
  padding: 6px 18px;
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 0;
  padding: 0;
  border: 0;
}
.choices input {
  accent-color: var(--ink);
}
.row {
  display: grid;
  grid-template-columns: 24px 1fr auto;
  align-items: baseline;
  gap: 12px;
  width: 100%;
  padding: 10px 18px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
.row:focus-visible {
  outline-offset: -3px;
}
.plate {
  min-width: 22px;
  box-sizing: border-box;
  border-radius: 4px;
  padding: 0 3px;
  font-size: 12.5px;
  font-weight: 700;
  line-height: 20px;
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
.title {
  font-weight: 650;
  overflow-wrap: anywhere;
}
.title.plain {
  font-weight: 400;
}
.measure {
  white-space: nowrap;
}
.more {
  display: grid;
  gap: 8px;
  padding: 0 18px 14px 54px;
  overflow-wrap: anywhere;
}
.more > :deep(.tiles) {
  margin-left: -36px;
}
.care {
  color: var(--flag);
}
.acts {
  display: flex;
  gap: 8px;
  margin-left: -36px;
}
.key {
  margin-left: 8px;
  opacity: 0.7;
}
</style>
