<script setup lang="ts">
import { computed } from 'vue'

import { useJob } from '@/stores/job'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import LengthField from '../LengthField.vue'

/** Where what is picked lies on the sheet, to be typed. */
const sheets = useSheets()
const jobs = useJob()
const w = words.sheets
const items = computed(() => {
  const seen: Record<string, number> = {}
  return (sheets.sheet?.items ?? []).map((item) => {
    const name = item.item ? sheets.sheet!.shapes[item.item]?.map((s) => s.name).find(Boolean) || item.item : w.all
    seen[name] = (seen[name] ?? 0) + 1
    return { value: item.key, title: seen[name] > 1 ? `${name} ${seen[name]}` : name }
  })
})
const item = computed(() => sheets.item)
const turned = (event: Event) => {
  const value = Number.parseFloat((event.target as HTMLInputElement).value)
  if (item.value && Number.isFinite(value)) void sheets.lay(item.value.x, item.value.y, value)
}
</script>

<template>
  <div class="item">
    <label class="row small">
      <span>{{ w.item }}</span>
      <select v-model="sheets.picked" :aria-label="w.item">
        <option value="">{{ w.none }}</option>
        <option v-for="one in items" :key="one.value" :value="one.value">{{ one.title }}</option>
      </select>
    </label>
    <div v-if="item" class="where">
      <LengthField zero :label="w.x" :value="item.x" :disabled="!!jobs.busy" @take="sheets.lay($event, item.y, item.turn)" />
      <LengthField zero :label="w.y" :value="item.y" :disabled="!!jobs.busy" @take="sheets.lay(item.x, $event, item.turn)" />
      <v-text-field :label="w.turn" :model-value="item.turn" suffix="°" :disabled="!!jobs.busy" @keydown.enter="turned" />
    </div>
    <p v-else class="small quiet">{{ w.hint }}</p>
  </div>
</template>

<style scoped>
.item {
  padding: 10px 18px 14px;
  display: grid;
  gap: 10px;
  border-top: 1px solid var(--rule);
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
}
select {
  max-width: 190px;
  height: 30px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.where {
  display: grid;
  grid-template-columns: 1fr 1fr 0.8fr;
  gap: 8px;
}
</style>
