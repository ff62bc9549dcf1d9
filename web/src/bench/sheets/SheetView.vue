<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'

import type { SheetShown } from '@/api/types'
import { useUnits } from '@/composables/units'
import { useSheetDrag } from '@/composables/sheetDrag'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import SheetCarrier from './SheetCarrier.vue'

/** One sheet with what lies on it: on its carrier, as the tool sees it, or alone as it looks. */
const props = defineProps<{ sheet: SheetShown; asCut: boolean }>()
const sheets = useSheets()
const units = useUnits()
const w = words.sheets

const flipped = computed(() => props.asCut && props.sheet.mirrored)
/** Of a roll only what the sheet lies on is shown. */
const ROLL_MM = 40
const carrier = computed(() => {
  const on = props.asCut ? props.sheet.carrier : null
  if (on?.kind !== 'roll') return on
  const high = Math.min(on.height_mm, props.sheet.at[1] + props.sheet.height_mm + ROLL_MM)
  const [left, top, width, height] = on.reach
  return { ...on, height_mm: high, reach: [left, top, width, Math.min(height, high - top)] }
})
/** What is shown, in mm from the sheet's top left: the sheet, and its carrier. */
const room = computed(() => {
  const { width_mm: width, height_mm: height, at } = props.sheet
  const on = carrier.value
  const box = props.sheet.report.box ?? [0, 0, width, height]
  const [from, to] = flipped.value ? [width - box[2], width - box[0]] : [box[0], box[2]]
  const left = Math.min(on ? -at[0] : 0, 0, from)
  const top = Math.min(on ? -at[1] : 0, 0, box[1])
  const right = Math.max(on ? on.width_mm - at[0] : 0, width, to)
  const bottom = Math.max(on ? on.height_mm - at[1] : 0, height, box[3])
  const margin = Math.max(right - left, bottom - top) * 0.03
  return [left - margin, top - margin, right - left + 2 * margin, bottom - top + 2 * margin]
})
/** A pixel on the screen, in mm. */
const screen = ref([900, 900])
const hair = computed(() => Math.max(room.value[2] / screen.value[0], room.value[3] / screen.value[1]))
const watching = new ResizeObserver(([entry]) => {
  const { width, height } = entry.contentRect
  if (width && height) screen.value = [width, height]
})
const flip = computed(() => (flipped.value ? `matrix(-1 0 0 1 ${props.sheet.width_mm} 0)` : ''))
/** What of the sheet lies beyond the reach: the sheet less the reach, even-odd. */
const beyond = computed(() => {
  const on = carrier.value
  if (!on) return ''
  const [x, y] = [on.reach[0] - props.sheet.at[0], on.reach[1] - props.sheet.at[1]]
  const [left, top] = [Math.max(x, 0), Math.max(y, 0)]
  const right = Math.min(x + on.reach[2], props.sheet.width_mm)
  const bottom = Math.min(y + on.reach[3], props.sheet.height_mm)
  const inner = right > left && bottom > top ? `M${left} ${top}H${right}V${bottom}H${left}Z` : ''
  return `M0 0H${props.sheet.width_mm}V${props.sheet.height_mm}H0Z${inner}`
})
const onCarrier = computed(() => `translate(${-props.sheet.at[0]} ${-props.sheet.at[1]})`)
const problems = computed(() => props.sheet.report.problems.filter((one) => one.place))

const svg = ref<SVGSVGElement | null>(null)
onMounted(() => watching.observe(svg.value!))
onUnmounted(() => watching.disconnect())
const { place, down, turnDown, nearest, pickedBox } = useSheetDrag(() => props.sheet, flipped, hair, svg)
/** Beside the line to what is nearest, as it is seen. */
const label = computed(() => {
  const { from, to } = nearest.value ?? { from: [0, 0], to: [0, 0] }
  const x = (from[0] + to[0]) / 2
  return [(flipped.value ? props.sheet.width_mm - x : x) + 6 * hair.value, (from[1] + to[1]) / 2 - 6 * hair.value]
})
const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
function key(event: KeyboardEvent) {
  const item = sheets.item
  if (event.key === 'Escape' && sheets.picked) {
    sheets.picked = ''
    event.stopPropagation()
  }
  const way = WAYS[event.key]
  if (!way || !item || sheets.drafted) return
  event.preventDefault()
  event.stopPropagation()
  const by = event.shiftKey ? 10 : 1
  void sheets.lay(item.x + way[0] * by * (flipped.value ? -1 : 1), item.y + way[1] * by, item.turn)
}
</script>

<template>
  <svg
    ref="svg"
    class="sheet"
    :viewBox="room.join(' ')"
    tabindex="0"
    role="application"
    :aria-label="w.board(sheet.name, sheet.items.length)"
    @keydown="key"
    @pointerdown.self="sheets.picked = ''"
  >
    <defs>
      <pattern id="beyond" :width="8 * hair" :height="8 * hair" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line y2="100" :stroke-width="3 * hair" class="hatch" />
      </pattern>
      <clipPath id="on-stock"><path :d="sheet.rim" :transform="flip" /></clipPath>
    </defs>
    <SheetCarrier v-if="carrier" :carrier="carrier" :hair="hair" :transform="onCarrier" />
    <g :transform="flip">
      <path :d="sheet.rim" class="stock" :stroke-width="1.5 * hair" @pointerdown="sheets.picked = ''" />
      <path :d="sheet.usable" class="usable" :stroke-width="hair" :stroke-dasharray="`${4 * hair} ${4 * hair}`" />
    </g>
    <path v-if="carrier" :d="beyond" fill="url(#beyond)" fill-rule="evenodd" clip-path="url(#on-stock)" class="beyond">
      <title>{{ w.beyond }}</title>
    </path>
    <SheetCarrier v-if="carrier" arrow :carrier="carrier" :hair="hair" :transform="onCarrier" />
    <g :transform="flip">
      <path v-if="sheet.marks" :d="sheet.marks" class="marks" />
      <path v-if="sheet.weeding" :d="sheet.weeding" class="weeding" :stroke="sheet.color" :stroke-width="1.5 * hair" />
      <g
        v-for="item in sheet.items"
        :key="item.key"
        v-memo="[place(item), item.key === sheets.picked, sheet.shapes, hair]"
        :transform="place(item)"
        class="item"
        :class="{ picked: item.key === sheets.picked }"
        :data-item="item.key"
        @pointerdown="down($event, item)"
      >
        <path
          v-for="(shape, k) in sheet.shapes[item.item]"
          :key="k"
          :d="shape.path"
          :fill="shape.as === 'fill' ? shape.color : 'none'"
          :stroke="shape.as === 'fill' ? 'none' : shape.color"
          :stroke-width="2 * hair"
          :fill-rule="shape.rule === 'evenodd' ? 'evenodd' : 'nonzero'"
        />
      </g>
      <template v-if="sheet.numbers">
        <path :d="sheet.numbers" class="numbers halo" :stroke-width="4 * hair" />
        <path :d="sheet.numbers" class="numbers" :stroke-width="1.6 * hair" />
      </template>
      <g v-if="pickedBox && !sheets.drafted" class="turn" @pointerdown.stop="turnDown">
        <title>{{ w.turnHandle }}</title>
        <line
          :x1="(pickedBox[0] + pickedBox[2]) / 2"
          :y1="pickedBox[1]"
          :x2="(pickedBox[0] + pickedBox[2]) / 2"
          :y2="pickedBox[1] - 20 * hair"
          :stroke-width="1.5 * hair"
        />
        <circle :cx="(pickedBox[0] + pickedBox[2]) / 2" :cy="pickedBox[1] - 26 * hair" :r="6 * hair" :stroke-width="2 * hair" data-turn />
      </g>
      <line
        v-if="nearest && nearest.mm > 0"
        :x1="nearest.from[0]"
        :y1="nearest.from[1]"
        :x2="nearest.to[0]"
        :y2="nearest.to[1]"
        class="nearest"
        :stroke-width="2 * hair"
      />
      <circle
        v-for="one in problems"
        :key="one.sentence"
        :cx="one.place![0]"
        :cy="one.place![1]"
        :r="9 * hair"
        class="flag"
        :stroke-width="2.5 * hair"
      >
        <title>{{ one.sentence }}</title>
      </circle>
    </g>
    <text v-if="nearest" :x="label[0]" :y="label[1]" :font-size="14 * hair" class="apart">{{ w.apart(units.one(nearest.mm)) }}</text>
    <text :x="sheet.width_mm / 2" :y="sheet.height_mm + 18 * hair" :font-size="15 * hair" class="side" text-anchor="middle">
      {{ flipped ? w.backSide : w.side }}
    </text>
  </svg>
</template>

<style scoped>
.sheet {
  flex: 1;
  min-height: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.sheet:focus-visible {
  outline: 2px solid var(--pick);
  outline-offset: 2px;
}
.stock {
  fill: var(--paper);
  stroke: var(--edge);
}
.usable {
  fill: none;
  stroke: var(--edge);
  pointer-events: none;
}
.hatch {
  stroke: var(--flag);
}
.beyond {
  opacity: 0.45;
  pointer-events: none;
}
.item {
  cursor: grab;
}
.item.picked path {
  stroke: var(--pick);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
  paint-order: stroke;
  stroke-width: 2.5px;
}
.marks {
  fill: #000;
  pointer-events: none;
}
.numbers {
  fill: none;
  stroke: #1b2a4e;
  pointer-events: none;
}
.numbers.halo {
  stroke: #fff;
}
.turn {
  fill: var(--raised);
  stroke: var(--pick);
  cursor: grab;
}
.nearest {
  stroke: var(--pick);
  pointer-events: none;
}
.apart {
  fill: var(--ink);
  stroke: var(--ground);
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
  paint-order: stroke;
  font-weight: 650;
  pointer-events: none;
}
.side {
  fill: var(--ink-2);
  pointer-events: none;
}
.weeding {
  fill: none;
  pointer-events: none;
}
.flag {
  fill: none;
  stroke: var(--flag);
  pointer-events: none;
}
</style>
