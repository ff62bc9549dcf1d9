<script setup lang="ts">
import { computed } from 'vue'

import { mm, parseLength } from '@/composables/lengths'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

import SlideField from '../SlideField.vue'

/** Darkness, smoothness and the smallest bit: what every way of tracing is told, dragged or typed. */
const props = defineProps<{ pixelMm: number }>()
const w = words.trace
const trace = useTrace()
const ready = computed(() => !!trace.shown || !!trace.proposal)

const percent = (v: number) => `${Math.round(v * 100)} %`
const readPercent = (text: string) => {
  const value = Number(text.replace('%', '').replace(',', '.').trim())
  return text.trim() && value >= 0 && value <= 100 ? value / 100 : null
}
const fine = (v: number) => `${v < 0.1 ? Number(v.toPrecision(2)) : mm(v)} mm`
const area = (v: number) => `${v < 1 ? Number(v.toPrecision(2)) : mm(v)} mm²`
const readArea = (text: string) => {
  const value = Number(
    text
      .replace(/mm\s*(²|2)?\s*$/i, '')
      .replace(',', '.')
      .trim(),
  )
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
const best = computed(() => trace.proposed.threshold)
/** Bars of the chart, as one path in a box of 64 by 1. */
const bars = computed(() => {
  const levels = trace.proposal?.levels ?? []
  return `M0 1${levels.map((v, i) => `V${1 - v}H${i + 1}`).join('')}V1Z`
})
</script>

<template>
  <SlideField
    v-if="trace.mode === 'dark' || trace.mode === 'centre'"
    :label="w.darkness"
    :value="trace.value('threshold')"
    :low="0"
    :high="1"
    even
    :show="percent"
    :read="readPercent"
    :proposed="best"
    :hint="best !== undefined ? w.best(percent(best)) : trace.problem ? '' : w.looking"
    :disabled="!ready"
    @set="(v, dragging) => trace.set('threshold', v, dragging)"
    @reset="trace.set('threshold', null, false)"
  >
    <template #behind>
      <svg class="chart" viewBox="0 0 64 1" preserveAspectRatio="none" aria-hidden="true"><path :d="bars" /></svg>
    </template>
  </SlideField>
  <SlideField
    :label="w.smoothness"
    :value="trace.value('smoothness_mm')"
    :low="0.05 * props.pixelMm"
    :high="12 * props.pixelMm"
    :show="fine"
    :read="readSmooth"
    :proposed="trace.proposed.smoothness_mm"
    :hint="w.corners"
    :disabled="!ready"
    @set="(v, dragging) => trace.set('smoothness_mm', v, dragging)"
    @reset="trace.set('smoothness_mm', null, false)"
  />
  <SlideField
    :label="w.smallest"
    :value="trace.value('smallest_mm2')"
    :low="0"
    :high="Math.max(400 * props.pixelMm * props.pixelMm, 8)"
    :show="area"
    :read="readArea"
    :proposed="trace.proposed.smallest_mm2"
    :hint="specks"
    :disabled="!ready"
    @set="(v, dragging) => trace.set('smallest_mm2', v, dragging)"
    @reset="trace.set('smallest_mm2', null, false)"
  />
</template>

<style scoped>
.chart {
  position: absolute;
  inset: -8px 0 14px;
  width: 100%;
  height: 22px;
}
.chart path {
  fill: var(--rule);
}
</style>
