<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'

import { useLate } from '@/composables/late'
import { mm } from '@/composables/lengths'
import { useUntraced } from '@/composables/untraced'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

/** What would spoil the cut, what is held for comparison, and keeping the trace: of this picture, or of all. */
const w = words.trace
const jobs = useJob()
const trace = useTrace()
const library = useLibrary()
const router = useRouter()

/** An answer that takes its time: what is painted is the one before. */
const late = useLate(() => (trace.waiting ? (trace.shown?.number ?? 0) : null))
const material = computed(() => library.library.materials.find((m) => m.id === jobs.head?.settings.material))
const thin = computed(() => {
  const told = trace.measured
  const name = material.value?.name ?? ''
  if (!told) return []
  return [
    ...(told.slivers.length ? [w.slivers(told.slivers.length)] : []),
    ...(told.strip_count ? [w.strips(told.strip_count, name, mm(told.strips[0][4]))] : []),
    ...(told.gap_count ? [w.gaps(told.gap_count, mm(told.gaps[0][4]))] : []),
  ]
})
const onward = computed(() => ({ name: 'bench', params: { job: jobs.job!.id, station: 'check' } }))
/** Other pictures of this job that are not traced yet. */
const { untraced } = useUntraced()
const others = computed(() => (trace.step ? [] : untraced.value.filter((p) => p.id !== trace.picture)))

async function keep() {
  const parameters = trace.parameters()
  const key = trace.step?.key
  const done = key
    ? await jobs.changeStep(words.busy.tracing, key, parameters)
    : await jobs.addStep(words.busy.tracing, 'trace', parameters)
  if (done) await router.push(onward.value)
}
/** The same way for all pictures; what is about places in this one is not told of others. */
async function keepAll() {
  const own = { dropped: [], kept: [], moved: [], inside: [], beyond: [], crop: [], ends: [], apart_mm: null }
  const all = [trace.parameters(), ...others.value.map((p) => ({ ...trace.parameters(p.id), ...own }))]
  const steps = all.map((parameters) => ({ operation: 'trace', parameters }))
  if (await jobs.revise(words.busy.tracing, (kept) => [...kept, ...steps])) await router.push(onward.value)
}
</script>

<template>
  <div v-if="late" class="late small" role="status">
    {{ w.finding }}
    <v-progress-linear :aria-label="w.finding" indeterminate color="primary" height="3" rounded />
  </div>
  <ul v-else-if="thin.length && !trace.problem" class="thin small">
    <li v-for="line in thin" :key="line">{{ line }}</li>
  </ul>
  <p v-if="trace.problem && !late" class="warn small" role="alert">
    {{ trace.shown ? `${trace.problem} ${w.before}` : trace.problem }}
  </p>
  <template v-if="trace.changed">
    <v-btn color="primary" size="large" block :disabled="!trace.shown || !!trace.problem || !!jobs.busy" @click="keep">
      {{ trace.step ? w.keepChange : w.keep }}
    </v-btn>
    <v-btn v-if="others.length" variant="outlined" block :disabled="!trace.shown || !!trace.problem || !!jobs.busy" @click="keepAll">
      {{ w.keepAll(others.length + 1) }}
    </v-btn>
  </template>
  <v-btn v-else color="primary" size="large" block :to="onward">{{ w.on }}</v-btn>
  <p class="small holds">
    <template v-if="trace.held">
      <button @click="trace.swap()">{{ w.swap }}</button>
      <button @click="trace.letGo()">{{ w.letGo }}</button>
    </template>
    <button v-else-if="trace.shown" @click="trace.hold()">{{ w.hold }}</button>
    <span v-if="trace.step" class="quiet">{{ trace.changed ? w.follow : w.kept }}</span>
  </p>
</template>

<style scoped>
.thin,
.warn {
  margin: 0 0 8px;
  padding: 8px 12px;
  border-radius: 8px;
  background: var(--flag-ground);
  color: var(--flag);
  list-style: none;
}
.late {
  display: grid;
  gap: 4px;
  margin: 0 0 8px;
  color: var(--ink-2);
}
.holds {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 4px 16px;
  margin: 8px 0 0;
}
button:not(.v-btn) {
  padding: 2px 0;
  border: 0;
  background: none;
  color: var(--ink);
  text-decoration: underline;
  cursor: pointer;
}
</style>
