<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { mm, parseLength } from '@/composables/lengths'
import { useTrace } from '@/stores/trace'
import { isPlain, type OptionName } from '@/stores/traceOptions'
import { useTraceTool } from '@/stores/traceTool'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import RowField from '../RowField.vue'
import TickField from '../TickField.vue'

/** The true size of what is found: typed, by two points, or by a shape of known size that lies in the picture. */
const w = words.trace
const trace = useTrace()
const tools = useTraceTool()
const NAMES: OptionName[] = ['width_mm', 'height_mm', 'ends', 'apart_mm', 'reference', 'mirrored']
const set = computed(() => NAMES.some((name) => !isPlain(trace.options, name)))
const length = (v: number) => `${mm(v)} mm`
const readLength = (text: string) => {
  const value = parseLength(text)
  return value !== null && value >= 0.1 && value <= 1e5 ? value : undefined
}
const SHAPES = ['square', 'circle', 'rectangle'] as const
const shape = ref<(typeof SHAPES)[number]>('square')
watch(
  () => trace.options.reference,
  (text) => {
    const name = text?.split(':')[0]
    if (name) shape.value = name as (typeof SHAPES)[number]
  },
  { immediate: true },
)
const size = computed(() => trace.options.reference?.split(':')[1] ?? null)
/** The size as the reference has it: one length, or for a rectangle two. */
function readSize(text: string): string | undefined {
  const sides = text.split(/x|×/i).map((part) => parseLength(part.trim()))
  if (sides.some((side) => side === null || side <= 0) || sides.length !== (shape.value === 'rectangle' ? 2 : 1)) return undefined
  return `${sides.map((side) => Number(side!.toFixed(4))).join('x')}mm`
}
const takeSize = (text: string | null) => trace.tell('reference', text ? `${shape.value}:${text}` : null)
function takeShape(name: (typeof SHAPES)[number]) {
  shape.value = name
  if (size.value && (name === 'rectangle') === size.value.includes('x')) takeSize(size.value)
}
const sheet = computed(() => `/api/reference-sheet?shape=${shape.value}&size=${encodeURIComponent(size.value ?? '60mm')}`)
const figure = computed(() => {
  const off = trace.shown?.chosen.reference_error
  return off === undefined ? '' : w.trueTo((100 * off).toFixed(3))
})
</script>

<template>
  <FoldPart :name="w.scale" :set="set" unfolded @reset="trace.reset(...NAMES)">
    <RowField
      v-for="name in ['width_mm', 'height_mm'] as const"
      :key="name"
      :label="name === 'width_mm' ? w.wide : w.high"
      :value="trace.options[name]"
      :show="length"
      :read="readLength"
      :wrong="words.slide.wrongLength"
      :empty="w.asInPicture"
      @take="(v) => trace.tell(name, v)"
    />
    <div class="line">
      <button class="tool" :aria-pressed="tools.tool === 'ends'" @click="tools.choose('ends')">{{ w.twoPoints }}</button>
    </div>
    <RowField
      v-if="trace.options.ends.length === 2"
      :label="w.apart"
      :value="trace.options.apart_mm"
      :show="length"
      :read="readLength"
      :wrong="words.slide.wrongLength"
      @take="(v) => trace.tell('apart_mm', v)"
    />
    <div class="reference">
      <label>
        {{ w.reference }}
        <select :value="shape" @change="takeShape(($event.target as HTMLSelectElement).value as (typeof SHAPES)[number])">
          <option v-for="name in SHAPES" :key="name" :value="name">{{ w.shapes[name] }}</option>
        </select>
      </label>
      <RowField
        :label="shape === 'rectangle' ? w.sides : shape === 'circle' ? w.across : w.side"
        :value="size"
        :show="(v: string) => v.replace('x', ' × ').replace('mm', ' mm')"
        :read="readSize"
        :wrong="shape === 'rectangle' ? w.wrongSides : words.slide.wrongLength"
        :empty="w.noReference"
        @take="takeSize"
      />
      <p class="small quiet">
        {{ figure || w.referenceHint }} <a :href="sheet" download>{{ w.sheet }}</a>
      </p>
    </div>
    <TickField :label="w.mirrored" :value="trace.options.mirrored" @take="(v) => trace.tell('mirrored', v)" />
  </FoldPart>
</template>

<style scoped>
.line {
  display: flex;
}
.reference {
  display: grid;
  gap: 6px;
}
.reference label {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}
select {
  height: 32px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
}
p {
  margin: 0;
}
a {
  color: var(--ink);
}
</style>
