<script setup lang="ts">
import { computed } from 'vue'

import { mm, parseLength } from '@/composables/lengths'
import { useLibrary } from '@/stores/library'
import { useTrace } from '@/stores/trace'
import { isAsked, type OptionName } from '@/stores/traceOptions'
import { useTraceTool, type Tool } from '@/stores/traceTool'
import { words } from '@/words'

import RowField from '../RowField.vue'
import TickField from '../TickField.vue'

/** What the chosen way of tracing is told beside darkness, smoothness and the smallest bit. */
const w = words.trace
const trace = useTrace()
const library = useLibrary()
const tools = useTraceTool()
const asks = (name: OptionName) => isAsked(trace.mode, name)
const switches: { name: 'with_darker' | 'background' | 'holes' | 'on_top'; label: string }[] = [
  { name: 'with_darker', label: w.withDarker },
  { name: 'background', label: w.background },
  { name: 'holes', label: w.holes },
  { name: 'on_top', label: w.onTop },
]
/** Between which values a parameter lies, as the operation declares it. */
function limits(name: OptionName): [number, number] {
  const found = library.operation('trace')?.parameters.find((one) => one.name === name)
  return [found?.low ?? -Infinity, found?.high ?? Infinity]
}
const whole = (name: OptionName) => (text: string) => {
  const value = Number(text)
  const [low, high] = limits(name)
  return Number.isInteger(value) && value >= low && value <= high ? value : undefined
}
const length = (v: number) => `${mm(v)} mm`
const readLength = (name: OptionName) => (text: string) => {
  const [low, high] = limits(name)
  const below = text.startsWith('-')
  const value = text === '0' ? 0 : parseLength(below ? text.slice(1) : text)
  if (value === null) return undefined
  const signed = below ? -value : value
  return signed >= low && signed <= high ? signed : undefined
}
const isPhoto = computed(() => trace.proposal?.kind === 'photo' || trace.options.inside.length > 0)
const marks: { id: Tool; label: string }[] = [
  { id: 'inside', label: w.markInside },
  { id: 'beyond', label: w.markBeyond },
]
</script>

<template>
  <div class="told">
    <fieldset v-if="asks('lines')" class="lines">
      <legend>{{ w.linesAre }}</legend>
      <label v-for="(name, id) in w.lines" :key="id">
        <input type="radio" name="trace-lines" :value="id" :checked="trace.options.lines === id" @change="trace.tell('lines', id)" />
        {{ name }}
      </label>
    </fieldset>
    <RowField
      v-if="asks('colours')"
      :label="w.colours"
      :value="trace.options.colours"
      :show="String"
      :read="whole('colours')"
      :wrong="w.wrongCount(...limits('colours'))"
      :empty="trace.chosen.colours ? w.all(trace.chosen.colours) : w.asMany"
      @take="(v) => trace.tell('colours', v)"
    />
    <RowField
      v-if="asks('shades')"
      :label="w.shadesField"
      :value="trace.options.shades"
      :show="String"
      :read="whole('shades')"
      :wrong="w.wrongCount(...limits('shades'))"
      @take="(v) => trace.tell('shades', v ?? 3)"
    />
    <RowField
      v-if="asks('distance_mm')"
      :label="w.distance"
      :value="trace.options.distance_mm"
      :show="length"
      :read="readLength('distance_mm')"
      :wrong="words.slide.wrongLength"
      @take="(v) => trace.tell('distance_mm', v ?? 0)"
    />
    <RowField
      v-if="asks('underlap_mm')"
      :label="w.underlap"
      :value="trace.options.underlap_mm"
      :show="length"
      :read="readLength('underlap_mm')"
      :wrong="words.slide.wrongLength"
      @take="(v) => trace.tell('underlap_mm', v ?? 0)"
    />
    <RowField
      v-if="asks('widest_mm')"
      :label="w.widest"
      :value="trace.options.widest_mm"
      :show="length"
      :read="readLength('widest_mm')"
      :wrong="words.slide.wrongLength"
      :empty="w.noneWider"
      @take="(v) => trace.tell('widest_mm', v)"
    />
    <template v-for="one in switches" :key="one.name">
      <TickField v-if="asks(one.name)" :label="one.label" :value="trace.options[one.name]" @take="(v) => trace.tell(one.name, v)" />
    </template>
    <div v-if="asks('colour')" class="line">
      <button class="tool" :aria-pressed="tools.tool === 'colour'" @click="tools.choose('colour')">{{ w.pointColour }}</button>
      <template v-if="trace.options.colour">
        <span class="swatch" :style="{ background: trace.options.colour }" />
        <button class="away" @click="trace.tell('colour', null)">{{ w.anyDark }}</button>
      </template>
    </div>
    <div v-if="asks('inside') && isPhoto" class="line">
      <button v-for="one in marks" :key="one.id" class="tool" :aria-pressed="tools.tool === one.id" @click="tools.choose(one.id)">
        {{ one.label }}
      </button>
      <button v-if="trace.options.inside.length || trace.options.beyond.length" class="away" @click="trace.reset('inside', 'beyond')">
        {{ w.noMarks }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.lines {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 0;
  padding: 0;
  border: 0;
}
.lines legend {
  padding: 0 0 4px;
  font-weight: 650;
}
.lines label {
  display: flex;
  align-items: center;
  gap: 6px;
  cursor: pointer;
}
.told {
  display: grid;
  gap: 10px;
}
.told:empty {
  display: none;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.swatch {
  width: 20px;
  height: 20px;
  border: 1px solid var(--edge);
  border-radius: 50%;
}
</style>
