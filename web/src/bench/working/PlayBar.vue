<script setup lang="ts">
import { mdiPause, mdiPlay, mdiSkipNextOutline, mdiSkipPreviousOutline } from '@mdi/js'
import { computed } from 'vue'

import { PACES, useWorking } from '@/stores/working'
import { timeOf } from '@/composables/times'
import { words } from '@/words'

import IconButton from '../IconButton.vue'

/** Time runs: a slider over the whole program, and how fast it is played. */
const working = useWorking()
const w = words.working
const now = computed(() => `${timeOf(working.time)} / ${timeOf(working.total)}`)
</script>

<template>
  <div class="play" role="group" :aria-label="w.player">
    <IconButton :icon="mdiSkipPreviousOutline" :name="w.before" keys="," @press="working.step(-1)" />
    <IconButton
      :icon="working.playing ? mdiPause : mdiPlay"
      :name="working.playing ? w.stop : w.play"
      keys="Space"
      @press="working.play()"
    />
    <IconButton :icon="mdiSkipNextOutline" :name="w.next" keys="." @press="working.step(1)" />
    <input
      type="range"
      min="0"
      :max="working.total"
      step="any"
      :value="working.time"
      :aria-label="w.time"
      :aria-valuetext="now"
      @input="working.seek(Number(($event.target as HTMLInputElement).value))"
    />
    <span class="now small">{{ now }}</span>
    <label class="small pace">
      {{ w.pace }}
      <select v-model.number="working.pace" :aria-label="w.paceLong">
        <option v-for="pace in PACES" :key="pace" :value="pace">{{ w.times(pace) }}</option>
      </select>
    </label>
  </div>
</template>

<style scoped>
.play {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 6px 14px;
  background: var(--panel);
  border-top: 1px solid var(--rule);
}
input {
  flex: 1;
  min-width: 60px;
  accent-color: var(--ink);
}
.now {
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.pace {
  display: flex;
  align-items: center;
  gap: 6px;
}
select {
  height: 30px;
  padding: 0 4px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
</style>
