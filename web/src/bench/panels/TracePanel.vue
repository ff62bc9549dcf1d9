<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'

import { mm, parseLength } from '@/composables/lengths'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import SlideField from '../SlideField.vue'
import TraceModes from './TraceModes.vue'
import TraceTold from './TraceTold.vue'

const w = words.trace
const jobs = useJob()
const trace = useTrace()
const drawing = useDrawing()
const router = useRouter()

const pictures = computed(() => drawing.drawing?.pictures ?? [])
const pixel = computed(() => 25.4 / (pictures.value.find((p) => p.id === trace.picture)?.px_per_inch ?? 96))
const ready = computed(() => trace.proposal !== null)

const percent = (v: number) => `${Math.round(v * 100)} %`
const readPercent = (text: string) => {
  const value = Number(text.replace('%', '').replace(',', '.').trim())
  return text.trim() && value >= 0 && value <= 100 ? value / 100 : null
}
const fine = (v: number) => `${v < 0.1 ? Number(v.toPrecision(2)) : mm(v)} mm`
const area = (v: number) => `${v < 1 ? Number(v.toPrecision(2)) : mm(v)} mm²`
const readArea = (text: string) => {
  const value = Number(text.replace(/mm\s*(²|2)?\s*$/i, '').replace(',', '.').trim())
  return text.trim() && value >= 0 && value <= 1e6 ? value : null
}
const readSmooth = (text: string) => {
  const value = parseLength(text)
  return value !== null && value >= 0.001 && value <= 50 ? value : null
}
const specks = computed(() => {
  const now = trace.shown
  return now ? (now.specks ? w.specks(now.specks) : w.noSpecks) : ''
})
/** Bars of the chart, as one path in a box of 64 by 1. */
const bars = computed(() => {
  const levels = trace.proposal?.levels ?? []
  return `M0 1${levels.map((v, i) => `V${1 - v}H${i + 1}`).join('')}V1Z`
})

const onward = computed(() => ({ name: 'bench', params: { job: jobs.job!.id, station: 'check' } }))

async function keep() {
  const parameters = trace.parameters()
  const key = trace.step?.key
  const done = key
    ? await jobs.changeStep(words.busy.tracing, key, parameters)
    : await jobs.addStep(words.busy.tracing, 'trace', parameters)
  if (done) await router.push(onward.value)
}
</script>

<template>
  <PanelFrame :title="words.stations.trace">
    <template #head>
      <p v-if="!pictures.length" class="quiet">{{ w.empty }}</p>
    </template>

    <div v-if="pictures.length" class="fields" :class="{ pale: !ready }" :aria-busy="trace.waiting">
      <label v-if="pictures.length > 1" class="which">
        {{ w.which }}
        <select :value="trace.picture" @change="trace.choose(($event.target as HTMLSelectElement).value)">
          <option v-for="(p, i) in pictures" :key="p.id" :value="p.id">
            {{ w.picture(i + 1, p.size_px[0], p.size_px[1]) }}
          </option>
        </select>
      </label>
      <TraceModes />
      <SlideField
        v-if="trace.mode === 'dark' || trace.mode === 'centre'"
        :label="w.darkness"
        :value="trace.values.threshold"
        :low="0"
        :high="1"
        even
        :show="percent"
        :read="readPercent"
        :proposed="trace.proposal?.threshold"
        :hint="trace.proposal ? w.best(percent(trace.proposal.threshold)) : w.looking"
        :disabled="!ready"
        @set="(v, dragging) => trace.set('threshold', v, dragging)"
      >
        <template #behind>
          <svg class="chart" viewBox="0 0 64 1" preserveAspectRatio="none" aria-hidden="true"><path :d="bars" /></svg>
        </template>
      </SlideField>
      <SlideField
        :label="w.smoothness"
        :value="trace.values.smoothness_mm"
        :low="0.05 * pixel"
        :high="12 * pixel"
        :show="fine"
        :read="readSmooth"
        :proposed="trace.proposal?.smoothness_mm"
        :hint="w.corners"
        :disabled="!ready"
        @set="(v, dragging) => trace.set('smoothness_mm', v, dragging)"
      />
      <SlideField
        :label="w.smallest"
        :value="trace.values.smallest_mm2"
        :low="0"
        :high="Math.max(400 * pixel * pixel, 8)"
        :show="area"
        :read="readArea"
        :proposed="trace.proposal?.smallest_mm2"
        :hint="specks"
        :disabled="!ready"
        @set="(v, dragging) => trace.set('smallest_mm2', v, dragging)"
      />
      <TraceTold />
    </div>

    <template #foot>
      <template v-if="pictures.length">
        <p v-if="trace.problem" class="warn small" role="alert">
          {{ trace.problem }}<template v-if="trace.shown"> {{ w.before }}</template>
        </p>
        <v-btn
          v-if="trace.changed"
          color="primary"
          size="large"
          block
          :disabled="!trace.shown || !!trace.problem || !!jobs.busy"
          @click="keep"
        >
          {{ trace.step ? w.keepChange : w.keep }}
        </v-btn>
        <v-btn v-else color="primary" size="large" block :to="onward">{{ w.on }}</v-btn>
        <p v-if="trace.step" class="small quiet note">
          {{ trace.changed ? w.follow : w.kept }}
        </p>
      </template>
      <v-btn
        v-else
        variant="outlined"
        size="large"
        block
        :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'intake' } }"
      >
        {{ w.bring }}
      </v-btn>
    </template>
  </PanelFrame>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 18px;
  padding: 16px 18px;
}
.pale {
  opacity: 0.6;
}
.chart {
  position: absolute;
  inset: -8px 0 14px;
  width: 100%;
  height: 22px;
}
.chart path {
  fill: var(--rule);
}
.which {
  display: grid;
  gap: 4px;
  font-weight: 650;
}
select {
  height: 36px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
}
.warn {
  padding: 8px 12px;
  border-radius: 8px;
  background: var(--flag-ground);
  color: var(--flag);
}
.note {
  text-align: center;
}
</style>
