<script setup lang="ts">
import {
  mdiArrangeBringToFront,
  mdiArrangeSendToBack,
  mdiContentCopy,
  mdiDeleteOutline,
  mdiEyeOffOutline,
  mdiLockOutline,
  mdiPaletteOutline,
  mdiTrayArrowDown,
} from '@mdi/js'
import { ref } from 'vue'

import { useKeepOutline } from '@/composables/keepOutline'
import { useUnits } from '@/composables/units'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import IconButton from './IconButton.vue'

/** What can be done with what is picked: figures copied, a mark, the order, hidden, locked. */
const props = defineProps<{ text: string }>()
const picks = usePicks()
const jobs = useJob()
const units = useUnits()
const w = words.picked
/** For the eye only: none of them is a material's. */
const MARKS = ['#2f5fd0', '#2c6e5b', '#b8860b', '#8a4fa3', '#0f7c8a']
const SAID_MS = 1600

const copied = ref(false)
async function copy() {
  await navigator.clipboard?.writeText(props.text)
  copied.value = true
  window.setTimeout(() => (copied.value = false), SAID_MS)
}
const arrange = (to: 'front' | 'back') => void jobs.addStep(w.moving, 'arrange', { to }, picks.pieces)
const remove = () => void jobs.addStep(w.removing, 'remove', {}, picks.pieces)
const hide = () => void jobs.setPieces(w.hiding, picks.pieces, { hidden: true })
const lock = () => void jobs.setPieces(w.locking, picks.pieces, { locked: true }).then(() => picks.clear())
const { asOffcut } = useKeepOutline()
const mark = (colour: string | null) => void jobs.setPieces(w.marking, picks.pieces, { mark: colour })
</script>

<template>
  <div class="acts">
    <button class="unit" :aria-label="w.unit(units.unit)" @click="units.toggle()">{{ units.unit }}</button>
    <IconButton :icon="mdiContentCopy" :name="copied ? w.copied : w.copy" @press="copy" />
    <v-menu location="top">
      <template #activator="{ props: menu }">
        <button v-bind="menu" class="icon" type="button" :aria-label="w.mark" :title="w.mark">
          <v-icon :icon="mdiPaletteOutline" size="20" />
        </button>
      </template>
      <div class="marks">
        <button v-for="one in MARKS" :key="one" :style="{ background: one }" :aria-label="w.markWith(one)" @click="mark(one)" />
        <button class="none" :aria-label="w.unmark" @click="mark(null)">×</button>
      </div>
    </v-menu>
    <IconButton :icon="mdiArrangeBringToFront" :name="w.front" :disabled="!!jobs.busy" @press="arrange('front')" />
    <IconButton :icon="mdiArrangeSendToBack" :name="w.back" :disabled="!!jobs.busy" @press="arrange('back')" />
    <IconButton :icon="mdiEyeOffOutline" :name="w.hide" keys="h" :disabled="!!jobs.busy" @press="hide" />
    <IconButton v-if="picks.pieces.length === 1" :icon="mdiTrayArrowDown" :name="w.offcut" @press="asOffcut(picks.pieces[0])" />
    <IconButton :icon="mdiDeleteOutline" :name="w.remove" keys="Delete" :disabled="!!jobs.busy" @press="remove" />
    <IconButton :icon="mdiLockOutline" :name="w.lock" :disabled="!!jobs.busy" @press="lock" />
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  align-items: center;
}
.acts :deep(.icon) {
  width: 30px;
  height: 34px;
  padding: 0;
  border: 0;
  border-radius: 8px;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}
.unit {
  height: 28px;
  padding: 0 9px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  font-weight: 600;
  cursor: pointer;
}
.marks {
  display: flex;
  gap: 6px;
  padding: 8px;
  background: var(--raised);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: 8px;
}
.marks button {
  width: 26px;
  height: 26px;
  border: 1px solid var(--edge);
  border-radius: 50%;
  cursor: pointer;
}
.none {
  background: var(--panel);
}
</style>
