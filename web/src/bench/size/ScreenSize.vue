<script setup lang="ts">
import { computed, ref } from 'vue'

import { number } from '@/composables/lengths'
import { useScreenSize } from '@/composables/screenSize'
import { useBench } from '@/stores/bench'
import { words } from '@/words'

/** The work as large as it is, once this screen was held against a bank card (ISO/IEC 7810, ID-1) or a ruler. */
const bench = useBench()
const screen = useScreenSize()
const w = words.size
const open = ref(false)
const THINGS = { card: { mm: 85.6, high: 53.98 }, ruler: { mm: 100, high: 30 } }
const thing = ref<keyof typeof THINGS>('card')
const px = computed(() => THINGS[thing.value].mm * screen.pxPerMm.value)
const setPx = (value: number) => screen.set(value / THINGS[thing.value].mm)
let from: { x: number; px: number } | null = null
function press(event: PointerEvent) {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  from = { x: event.clientX, px: px.value }
}
const move = (event: PointerEvent) => from && setPx(from.px + event.clientX - from.x)
const BY: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }
function key(event: KeyboardEvent) {
  if (!BY[event.key]) return
  event.preventDefault()
  setPx(px.value + BY[event.key] * (event.shiftKey ? 10 : 0.5))
}
function show() {
  open.value = false
  bench.wantsTrueSize++
}
</script>

<template>
  <div class="part">
    <div class="row">
      <v-btn size="small" variant="outlined" :title="w.asLargeHint" @click="screen.isMeasured.value ? show() : (open = true)">{{
        w.asLarge
      }}</v-btn>
      <button class="link" @click="open = true">{{ w.calibrate }}</button>
    </div>
    <v-dialog v-model="open" width="720">
      <div class="dialog" role="dialog" :aria-label="w.screen.title">
        <h2>{{ w.screen.title }}</h2>
        <p>{{ w.screen.say }}</p>
        <p>
          <label v-for="(_, name) in THINGS" :key="name" class="choice"
            ><input v-model="thing" type="radio" name="thing" :value="name" /> {{ w.screen[name] }}</label
          >
        </p>
        <div class="bed">
          <div
            class="bar"
            :style="{ width: `${px}px`, height: `${THINGS[thing].high * screen.pxPerMm.value}px` }"
            tabindex="0"
            role="slider"
            :aria-label="w.screen.bar"
            :aria-valuenow="Math.round(px)"
            :aria-valuemin="40"
            :aria-valuemax="4000"
            @keydown="key"
          >
            <span class="grip" @pointerdown="press" @pointermove="move" @pointerup="from = null" @pointercancel="from = null" />
          </div>
        </div>
        <p class="quiet">{{ w.screen.is(number(screen.pxPerMm.value, 3)) }}</p>
        <div class="row">
          <v-btn color="primary" @click="show">{{ w.screen.done }}</v-btn>
          <v-btn v-if="screen.isMeasured.value" variant="text" @click="screen.set(null)">{{ w.screen.again }}</v-btn>
        </div>
      </div>
    </v-dialog>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 14px;
}
.dialog {
  display: grid;
  gap: 14px;
  padding: 22px 24px;
  border-radius: 12px;
  background: var(--panel);
  color: var(--ink);
}
.choice {
  margin-right: 18px;
  cursor: pointer;
}
.bed {
  overflow: auto;
  padding: 8px 0;
}
.bar {
  position: relative;
  border: 2px solid var(--ink);
  border-radius: 10px;
  background: var(--raised);
}
.grip {
  position: absolute;
  top: 0;
  right: -9px;
  width: 18px;
  height: 100%;
  cursor: ew-resize;
  touch-action: none;
}
.grip::after {
  content: '';
  position: absolute;
  inset: calc(50% - 16px) 5px;
  border-radius: 4px;
  background: var(--ink);
}
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
