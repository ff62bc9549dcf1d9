<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline, mdiLockOpenVariantOutline, mdiLockOutline } from '@mdi/js'
import { computed } from 'vue'

import { useRenaming } from '@/composables/renaming'
import { useUnits } from '@/composables/units'
import type { Drawn } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import PieceThumb from '../PieceThumb.vue'

/** A piece in the list; picked here is picked on the work. */
const props = defineProps<{ drawn: Drawn; name: string; picked: boolean }>()
const emit = defineEmits<{ pick: [event: MouseEvent | KeyboardEvent] }>()
const jobs = useJob()
const picks = usePicks()
const units = useUnits()
const w = words.list
const id = computed(() => props.drawn.piece.id)
const own = computed(() => jobs.head?.settings.pieces?.[id.value] ?? {})
const size = computed(() => {
  const { box } = props.drawn.shape
  return units.size(box[2] - box[0], box[3] - box[1])
})
const set = (values: Parameters<typeof jobs.setPieces>[2]) => void jobs.setPieces(w.changing, [id.value], values)

const {
  naming,
  name: typed,
  field,
  rename,
  named,
} = useRenaming(
  () => props.drawn.piece.name,
  (next) => set({ name: next }),
)
</script>

<template>
  <div
    class="piece"
    :class="{ picked, off: own.hidden }"
    @pointerenter="picks.hovered = { piece: id }"
    @pointerleave="picks.hovered = null"
  >
    <input
      v-if="naming"
      ref="field"
      v-model="typed"
      class="typed"
      maxlength="80"
      :aria-label="w.pieceName"
      @keydown.enter="named"
      @keydown.esc.stop="naming = false"
      @blur="named"
    />
    <button
      v-else
      class="main"
      :aria-pressed="picked"
      :data-piece="id"
      @click="emit('pick', $event)"
      @dblclick="rename"
      @keydown.f2="rename"
    >
      <PieceThumb :drawn="drawn" />
      <span class="words">
        <span class="name"><span v-if="own.mark" class="dot" :style="{ background: own.mark }" aria-hidden="true" />{{ name }}</span>
        <span class="small quiet">{{ size }}</span>
      </span>
    </button>
    <button
      class="mini"
      :class="{ on: own.hidden }"
      :aria-pressed="!!own.hidden"
      :aria-label="own.hidden ? w.show(name) : w.hide(name)"
      :disabled="!!jobs.busy"
      @click="set({ hidden: !own.hidden })"
    >
      <v-icon :icon="own.hidden ? mdiEyeOffOutline : mdiEyeOutline" size="16" />
    </button>
    <button
      class="mini"
      :class="{ on: own.locked }"
      :aria-pressed="!!own.locked"
      :aria-label="own.locked ? w.unlock(name) : w.lock(name)"
      :disabled="!!jobs.busy"
      @click="set({ locked: !own.locked })"
    >
      <v-icon :icon="own.locked ? mdiLockOutline : mdiLockOpenVariantOutline" size="16" />
    </button>
  </div>
</template>

<style scoped>
.piece {
  display: flex;
  align-items: center;
  height: 40px;
  padding: 0 10px 0 26px;
}
.piece.picked {
  background: color-mix(in srgb, var(--pick) 16%, var(--panel));
  box-shadow: inset 3px 0 0 var(--pick);
}
.off {
  opacity: 0.6;
}
.main {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
  height: 38px;
  padding: 0 6px;
  border: 0;
  border-radius: 6px;
  background: none;
  text-align: left;
  cursor: pointer;
}
.words {
  display: grid;
  min-width: 0;
  line-height: 1.25;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.dot {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 6px;
  border-radius: 50%;
}
.typed {
  flex: 1;
  min-width: 0;
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.mini {
  flex: none;
  display: grid;
  place-items: center;
  width: 24px;
  height: 30px;
  padding: 0;
  border: 0;
  border-radius: 6px;
  background: none;
  color: var(--ink-2);
  opacity: 0.55;
  cursor: pointer;
}
.mini:hover,
.mini:focus-visible,
.mini.on {
  opacity: 1;
}
</style>
