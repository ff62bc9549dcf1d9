<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'

import type { Finding, MendPreview } from '@/api/types'
import { mm } from '@/composables/lengths'
import { words } from '@/words'

import MendTiles from './MendTiles.vue'

const props = defineProps<{ finding: Finding; open: boolean; preview: MendPreview | null; busy: boolean }>()
const emit = defineEmits<{ pick: []; mend: []; aside: [] }>()
const root = ref<HTMLElement | null>(null)

const measure = () => {
  const values = props.finding.measure as Record<string, number>
  return values.length_mm !== undefined ? `${mm(values.length_mm)} mm` : ''
}
watch(
  () => props.open,
  async (open) => {
    if (!open) return
    await nextTick()
    root.value?.scrollIntoView({ block: 'nearest' })
  },
)
</script>

<template>
  <li ref="root" class="item" :class="{ open }">
    <button class="row" :aria-expanded="open" @click="emit('pick')">
      <span class="plate" :class="finding.level">{{ finding.number }}</span>
      <span class="title">{{ finding.title }}</span>
      <span class="small quiet measure">{{ measure() }}</span>
    </button>
    <div v-if="open" class="more">
      <p>{{ finding.message }}</p>
      <p class="quiet">{{ finding.effect }}</p>
      <MendTiles v-if="preview" :preview="preview" />
      <p v-if="finding.mendable && !finding.safe" class="care small">
        {{ words.check.lookFirst }}
      </p>
      <div class="acts">
        <v-btn v-if="finding.mendable" color="primary" :disabled="busy" @click="emit('mend')">
          {{ words.check.take }} <kbd class="key">m</kbd>
        </v-btn>
        <v-btn variant="text" :disabled="busy" @click="emit('aside')">{{ words.check.setAside }}</v-btn>
      </div>
    </div>
  </li>
</template>

<style scoped>
.item {
  border-bottom: 1px solid var(--rule);
}
.item.open {
  background: var(--raised);
}
.row {
  display: grid;
  grid-template-columns: 24px 1fr auto;
  align-items: baseline;
  gap: 12px;
  width: 100%;
  padding: 10px 18px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
.row:focus-visible {
  outline-offset: -3px;
}
.plate {
  min-width: 22px;
  box-sizing: border-box;
  border-radius: 4px;
  padding: 0 3px;
  font-size: 12.5px;
  font-weight: 700;
  line-height: 20px;
  text-align: center;
  color: var(--flag);
}
.plate.stops {
  background: var(--flag);
  color: var(--on-flag);
}
.plate.spoils {
  box-shadow: inset 0 0 0 1.6px var(--flag);
}
.title {
  font-weight: 650;
  overflow-wrap: anywhere;
}
.measure {
  white-space: nowrap;
}
.more {
  display: grid;
  gap: 8px;
  padding: 0 18px 14px 54px;
  overflow-wrap: anywhere;
}
.more > :deep(.tiles) {
  margin-left: -36px;
}
.care {
  color: var(--flag);
}
.acts {
  display: flex;
  gap: 8px;
  margin-left: -36px;
}
.key {
  margin-left: 8px;
  opacity: 0.7;
}
</style>
