<script setup lang="ts">
import { computed, ref } from 'vue'

import type { StepDone } from '@/api/types'
import { mm } from '@/composables/lengths'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import SourceSizes from './SourceSizes.vue'

const w = words.source
/** A file that was brought in: its true size in ways a person can check, what it holds, what was said of it. */
const props = defineProps<{ step: StepDone }>()
const jobs = useJob()
const sizing = ref(false)
const chooser = ref<HTMLInputElement | null>(null)
interface Figures {
  width_mm: number
  height_mm: number
  pieces: number
  nodes?: number
  layers?: number
  pictures?: number
  left_out?: string
}
const figures = computed(() => props.step.statistics as unknown as Figures)
const name = computed(() => String((props.step.parameters as { name?: string }).name || props.step.title))
const inches = (value: number) => (value / 25.4).toFixed(value < 254 ? 2 : 1)
const holds = computed(() => {
  const { pieces, nodes, layers, pictures } = figures.value
  if (pictures && !pieces) return props.step.note.split(', ').slice(1).join(', ')
  const parts = [w.pieces(pieces)]
  if (nodes !== undefined) parts.push(w.nodes(nodes))
  if (layers !== undefined) parts.push(w.layers(layers))
  if (pictures) parts.push(w.pictures(pictures))
  return parts.join(', ')
})
const said = computed(() => jobs.findings.filter((f) => f.step === props.step.key && f.id !== 'no-unit'))
const doubt = computed(() => (jobs.doubted.some((s) => s.key === props.step.key) ? props.step.source!.doubt : ''))

/** Blocks of other files cannot be taken in; what is written about a drawing can. */
const canTake = computed(() => /dimension|leader|table|frame/.test(figures.value.left_out ?? ''))
const takeNotes = () =>
  void jobs.changeStep(words.busy.reading(name.value), props.step.key, { ...(props.step.parameters as object), notes: true })

function newer(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void jobs.bringIn({ name: file.name, file }, props.step.key)
}
</script>

<template>
  <li class="source" :class="{ doubted: doubt }">
    <b class="name">{{ name }}</b>
    <p v-if="step.stopped" class="why">{{ step.stopped }}</p>
    <template v-else-if="step.enabled">
      <p class="size">
        {{ mm(figures.width_mm) }} × {{ mm(figures.height_mm) }} mm
        <span class="quiet small">{{ inches(figures.width_mm) }} × {{ inches(figures.height_mm) }} in</span>
      </p>
      <p class="small">{{ step.source?.in_words }}</p>
      <p class="small quiet">
        {{ holds
        }}<template v-if="figures.left_out"
          >. <span class="left-out">{{ w.leftOut(figures.left_out) }}</span>
          <button v-if="canTake" :disabled="!!jobs.busy" @click="takeNotes">{{ w.takeNotes }}</button></template
        >
      </p>
      <div v-if="doubt" class="doubt">
        <p>
          <b>{{ w.right }}</b> <span class="small">{{ doubt }}</span>
        </p>
        <SourceSizes :step="step" />
        <v-btn size="small" variant="text" :disabled="!!jobs.busy" @click="jobs.sizeIsRight(step)">{{ w.asItIs }}</v-btn>
      </div>
      <SourceSizes v-else-if="sizing" :step="step" @done="sizing = false" />
      <ul v-if="said.length" class="said small">
        <li v-for="f in said" :key="f.key" :class="f.level">
          <b>{{ f.title }}.</b> {{ f.message }} <span class="quiet">{{ f.effect }}</span>
        </li>
      </ul>
    </template>
    <p v-else class="small quiet">{{ words.step.switchedOff }}</p>
    <div class="links small">
      <button v-if="!doubt && step.enabled && step.source?.sizes.length" :aria-expanded="sizing" @click="sizing = !sizing">
        {{ w.another }}
      </button>
      <button :disabled="!!jobs.busy" @click="chooser?.click()">{{ w.newer }}</button>
      <button :disabled="!!jobs.busy" @click="jobs.dropStep(step.key)">{{ words.step.out }}</button>
    </div>
    <input ref="chooser" class="unseen" type="file" tabindex="-1" :aria-label="w.chooseNewer(name)" @change="newer" />
  </li>
</template>

<style scoped>
.source {
  display: grid;
  gap: 4px;
  padding: 14px 18px;
  border-bottom: 1px solid var(--rule);
}
.doubted {
  background: var(--raised);
}
.name {
  overflow-wrap: anywhere;
}
.size {
  font-size: 17px;
}
.doubt {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding-top: 6px;
}
.doubt > p b {
  color: var(--flag);
}
.doubt > :deep(.sizes) {
  width: 100%;
}
.quiet button {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  text-decoration: underline;
  cursor: pointer;
}
.said {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  display: grid;
  gap: 6px;
  overflow-wrap: anywhere;
}
.stops b,
.spoils b,
.why {
  color: var(--flag);
}
</style>
