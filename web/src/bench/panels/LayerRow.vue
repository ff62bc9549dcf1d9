<script setup lang="ts">
import {
  mdiChevronDown,
  mdiChevronRight,
  mdiDotsVertical,
  mdiEyeOffOutline,
  mdiEyeOutline,
  mdiLockOpenVariantOutline,
  mdiLockOutline,
} from '@mdi/js'
import { computed } from 'vue'

import type { Layer } from '@/api/types'
import { PATTERN, TREATMENT } from '@/canvas/patterns'
import { useRenaming } from '@/composables/renaming'
import { useDrawing } from '@/stores/drawing'
import { withCurrent } from '@/composables/chosen'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

/** A layer in the list: what it is called and made of, what the machine does with it, and what can be done to it. */
const props = defineProps<{ layer: Layer; pieces: number; colours: string[]; open: boolean }>()
const emit = defineEmits<{ toggle: [] }>()
const jobs = useJob()
const drawing = useDrawing()
const library = useLibrary()
const picks = usePicks()
const w = words.list

const own = computed(() => jobs.head?.settings.layers?.[props.layer.id] ?? {})
const layers = computed(() => drawing.drawing?.layers ?? [])
const at = computed(() => layers.value.findIndex((layer) => layer.id === props.layer.id))
const TREATMENTS = Object.entries(TREATMENT).map(([id, t]) => ({ id: id as Layer['treatment'], ...t }))

const { naming, name, field, rename, named } = useRenaming(
  () => props.layer.name,
  (next) => void jobs.setLayer(w.renaming, props.layer.id, { name: next }),
)
const set = (values: Parameters<typeof jobs.setLayer>[2]) => void jobs.setLayer(w.changing, props.layer.id, values)
const merge = (other: string) => void jobs.addStep(w.changing, 'merge-layers', { layers: [other, props.layer.id] })
const split = () => void jobs.addStep(w.changing, 'split-by-colour', { layer: props.layer.id })
function move(by: -1 | 1) {
  const order = layers.value.map((layer) => layer.id)
  const [moved] = order.splice(at.value, 1)
  order.splice(at.value + by, 0, moved)
  void jobs.addStep(w.changing, 'arrange', { layers: order })
}
</script>

<template>
  <div class="layer" :class="{ off: own.hidden }">
    <div class="line">
      <button class="fold" :aria-expanded="open" :aria-label="open ? w.fold(layer.name) : w.unfold(layer.name)" @click="emit('toggle')">
        <v-icon :icon="open ? mdiChevronDown : mdiChevronRight" size="18" />
      </button>
      <button
        class="swatch"
        :style="{ background: layer.color }"
        :title="w.pickLayer"
        :aria-label="`${w.pickLayer}: ${layer.name}`"
        @click="picks.pickLayer(layer.id)"
      />
      <input
        v-if="naming"
        ref="field"
        v-model="name"
        class="name"
        maxlength="80"
        :aria-label="w.layerName"
        @keydown.enter="named"
        @keydown.esc.stop="naming = false"
        @blur="named"
      />
      <button v-else class="name" :title="w.rename" @click="rename">
        {{ layer.name }} <span class="small quiet">{{ pieces }}</span>
      </button>
      <button
        class="mini"
        :aria-pressed="!!own.hidden"
        :aria-label="own.hidden ? w.show(layer.name) : w.hide(layer.name)"
        :disabled="!!jobs.busy"
        @click="set({ hidden: !own.hidden })"
      >
        <v-icon :icon="own.hidden ? mdiEyeOffOutline : mdiEyeOutline" size="17" />
      </button>
      <button
        class="mini"
        :aria-pressed="!!own.locked"
        :aria-label="own.locked ? w.unlock(layer.name) : w.lock(layer.name)"
        :disabled="!!jobs.busy"
        @click="set({ locked: !own.locked })"
      >
        <v-icon :icon="own.locked ? mdiLockOutline : mdiLockOpenVariantOutline" size="17" />
      </button>
      <v-menu location="bottom end">
        <template #activator="{ props: menu }">
          <button v-bind="menu" class="mini" :aria-label="w.more(layer.name)"><v-icon :icon="mdiDotsVertical" size="17" /></button>
        </template>
        <ul class="menu">
          <li>
            <button @click="rename">{{ w.rename }}</button>
          </li>
          <li v-if="at > 0">
            <button @click="move(-1)">{{ w.up }}</button>
          </li>
          <li v-if="at < layers.length - 1">
            <button @click="move(1)">{{ w.down }}</button>
          </li>
          <li v-if="colours.length > 1">
            <button @click="split">{{ w.split(colours.length) }}</button>
          </li>
          <li v-for="other in layers.filter((one) => one.id !== layer.id)" :key="other.id">
            <button @click="merge(other.id)">{{ w.merge(other.name) }}</button>
          </li>
        </ul>
      </v-menu>
    </div>
    <div class="line made">
      <svg class="pattern" viewBox="0 0 40 6" aria-hidden="true">
        <line x1="1" y1="3" x2="39" y2="3" :stroke-dasharray="PATTERN[layer.treatment].join(' ')" />
      </svg>
      <select
        :value="layer.treatment"
        :disabled="!!jobs.busy"
        :aria-label="w.treatment(layer.name)"
        @change="set({ treatment: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="t in TREATMENTS" :key="t.id" :value="t.id" :title="t.hint">{{ t.name }}</option>
      </select>
      <select
        :value="layer.material ?? ''"
        :disabled="!!jobs.busy"
        :aria-label="w.material(layer.name)"
        @change="set({ material: ($event.target as HTMLSelectElement).value })"
      >
        <option value="">{{ w.sameMaterial }}</option>
        <option v-for="m in withCurrent(library.library.materials, layer.material)" :key="m.id" :value="m.id">{{ m.name }}</option>
      </select>
      <input
        type="color"
        :value="layer.color"
        :disabled="!!jobs.busy"
        :aria-label="w.colour(layer.name)"
        @change="set({ color: ($event.target as HTMLInputElement).value })"
      />
    </div>
    <div v-if="colours.length > 1" class="line made colours">
      <button
        v-for="colour in colours.slice(0, 8)"
        :key="colour"
        class="swatch"
        :style="{ background: colour }"
        :title="w.pickColour"
        :aria-label="`${w.pickColour}: ${colour}`"
        @click="picks.pickColour(colour)"
      />
    </div>
  </div>
</template>

<style scoped>
.layer {
  display: grid;
  gap: 3px;
  padding: 8px 10px 6px;
  border-top: 1px solid var(--rule);
}
.off {
  opacity: 0.65;
}
.line {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.made {
  padding-left: 26px;
}
.name {
  flex: 1;
  min-width: 0;
  height: 26px;
  padding: 0 4px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  font-weight: 600;
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: text;
}
input.name {
  border-color: var(--edge);
  background: var(--raised);
}
.fold,
.mini {
  flex: none;
  display: grid;
  place-items: center;
  width: 24px;
  height: 26px;
  padding: 0;
  border: 0;
  border-radius: 6px;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}
.fold {
  width: 20px;
}
.swatch {
  flex: none;
  width: 18px;
  height: 18px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 4px;
  cursor: pointer;
}
.pattern {
  flex: none;
  width: 34px;
  height: 6px;
}
.pattern line {
  stroke: var(--ink);
  stroke-width: 1.6;
}
select {
  min-width: 0;
  flex: 1;
  height: 26px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--raised);
  cursor: pointer;
}
input[type='color'] {
  flex: none;
  width: 30px;
  height: 26px;
  padding: 1px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: var(--raised);
  cursor: pointer;
}
</style>
