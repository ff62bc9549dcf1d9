<script setup lang="ts">
import { mdiDotsVertical } from '@mdi/js'
import { computed } from 'vue'
import { useRouter } from 'vue-router'

import type { StepDone } from '@/api/types'
import { useBench } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { words } from '@/words'

/** A step of the log: what was done, and what can still be done about it. */
const props = defineProps<{ step: StepDone; job: string }>()
const jobs = useJob()
const bench = useBench()
const router = useRouter()
const w = words.step

const steps = computed(() => jobs.head?.steps ?? [])
const at = computed(() => steps.value.findIndex((step) => step.key === props.step.key))
const before = computed(() => steps.value.slice(0, at.value).findLast((step) => step.document)?.document ?? '')
const key = computed(() => props.step.key)

/** A trace is reopened where it was made; the others in a form. */
function reopen() {
  if (props.step.operation === 'trace') {
    void router.push({ name: 'bench', params: { job: props.job, station: 'trace' }, query: { step: key.value } })
  } else {
    bench.list = false
    bench.reopened = key.value
  }
}
async function branch() {
  const made = await jobs.copy(words.jobs.branchName(jobs.job!.name, props.step.title).slice(0, 120), key.value)
  if (made) void router.push({ name: 'bench', params: { job: made, station: props.step.station } })
}
function both() {
  const { title } = props.step
  bench.beforeAndAfter({ document: before.value, name: w.before(title) }, { document: props.step.document!, name: w.after(title) })
}
</script>

<template>
  <li class="knot" :class="{ off: !step.enabled, stopped: step.stopped, open: bench.reopened === step.key }">
    <span class="dot" aria-hidden="true" />
    <div class="words">
      <button class="title" :title="w.reopen" @click="reopen">{{ step.title }}</button>
      <template v-if="step.stopped">
        <span class="why small">{{ step.stopped }}</span>
        <span class="links small">
          <button :disabled="!!jobs.busy" @click="jobs.repairStep(key)">{{ w.repair }}</button>
          <button :disabled="!!jobs.busy" @click="jobs.dropStep(key)">{{ w.out }}</button>
        </span>
      </template>
      <span v-else-if="!step.enabled" class="small">{{ w.switchedOff }}</span>
      <span v-else-if="step.note" class="small note">{{ step.note }}</span>
    </div>
    <v-menu location="end">
      <template #activator="{ props: menu }">
        <button v-bind="menu" class="more" :aria-label="w.change(step.title)">
          <v-icon :icon="mdiDotsVertical" size="16" />
        </button>
      </template>
      <ul class="menu">
        <li>
          <button @click="reopen">{{ w.reopen }}</button>
        </li>
        <li v-if="before && step.document">
          <button @click="both">{{ w.both }}</button>
        </li>
        <li>
          <button @click="jobs.switchStep(key, !step.enabled)">{{ step.enabled ? w.off : w.on }}</button>
        </li>
        <li v-if="at > 0">
          <button @click="jobs.moveStep(key, -1)">{{ w.up }}</button>
        </li>
        <li v-if="at < steps.length - 1">
          <button @click="jobs.moveStep(key, 1)">{{ w.down }}</button>
        </li>
        <li>
          <button @click="branch">{{ w.branch }}</button>
        </li>
        <li>
          <button @click="jobs.dropStep(key)">{{ w.out }}</button>
        </li>
      </ul>
    </v-menu>
  </li>
</template>

<style scoped>
.knot {
  position: relative;
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 2px 0 2px 44px;
  color: var(--ink-2);
}
.dot {
  position: absolute;
  left: 16px;
  top: 8px;
  width: 9px;
  height: 9px;
  box-sizing: border-box;
  border-radius: 50%;
  border: 2.5px solid var(--ink);
  background: var(--panel);
}
.open .dot {
  background: var(--ink);
}
.words {
  display: grid;
  overflow-wrap: anywhere;
  min-width: 0;
}
.title {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  line-height: 1.3;
  text-align: left;
  cursor: pointer;
}
.title:hover,
.open .title {
  color: var(--ink);
  text-decoration: underline;
}
.note {
  color: var(--ink-3);
}
.off .title {
  text-decoration: line-through;
}
.stopped .dot {
  border-color: var(--flag);
  background: var(--flag);
}
.why {
  color: var(--flag);
}
.more {
  align-self: start;
  width: 24px;
  height: 24px;
  border: 0;
  border-radius: 6px;
  background: none;
  opacity: 0.55;
  cursor: pointer;
}
.more:hover,
.more:focus-visible {
  opacity: 1;
  background: var(--raised);
}
</style>
