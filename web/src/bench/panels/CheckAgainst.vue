<script setup lang="ts">
import { computed } from 'vue'

import { useChosen } from '@/composables/chosen'
import { mm, parseLength } from '@/composables/lengths'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import RowField from '../RowField.vue'
import TickField from '../TickField.vue'

/** What the design is held against: material, machine, purpose, and what the material bears. Each changes at once what
 * is found. */
const w = words.against
const jobs = useJob()
const picks = usePicks()
const { settings, held, materials, machines, purposes } = useChosen()
const bears = computed(() => held.value.bears)
const own = computed(() => !!Object.keys(settings.value.limits ?? {}).length)
const note = computed(() =>
  [held.value.material ?? w.anyMaterial, settings.value.purpose ? held.value.purpose : ''].filter(Boolean).join(', '),
)
const LIMITS = ['least_strip_mm', 'least_gap_mm', 'least_piece_mm2'] as const

const set = (values: Partial<typeof settings.value>) => jobs.set(words.busy.choosing, () => values)
const setLimit = (name: (typeof LIMITS)[number], value: number | null) => {
  const limits = { ...(settings.value.limits ?? {}) }
  if (value === null) delete limits[name]
  else limits[name] = value
  return set({ limits })
}
const size = (text: string) => {
  const value = parseLength(text)
  return value !== null && value > 0 ? value : undefined
}
const area = (text: string) => {
  const value = Number(text.replace(',', '.').replace(/\s*mm(2|²)$/, ''))
  return Number.isFinite(value) && value > 0 ? value : undefined
}
const one = computed(() => picks.pieces.length > 0 && picks.pieces.every((id) => settings.value.pieces?.[id]?.one))
const everyOne = computed(() => Object.values(settings.value.pieces ?? {}).filter((piece) => piece.one).length)
</script>

<template>
  <FoldPart :name="w.title" :set="own" :note="note" @reset="set({ limits: {} })">
    <label class="choice">
      {{ words.made.material }}
      <select
        :aria-label="words.made.material"
        :value="settings.material ?? ''"
        :disabled="!!jobs.busy"
        @change="set({ material: ($event.target as HTMLSelectElement).value || null, limits: {} })"
      >
        <option value="">{{ w.anyMaterial }}</option>
        <option v-for="m in materials" :key="m.id" :value="m.id">{{ m.name }}</option>
      </select>
    </label>
    <label class="choice">
      {{ words.made.machine }}
      <select
        :aria-label="words.made.machine"
        :value="settings.machine ?? ''"
        :disabled="!!jobs.busy"
        @change="set({ machine: ($event.target as HTMLSelectElement).value || null })"
      >
        <option value="">{{ w.anyMachine }}</option>
        <option v-for="m in machines" :key="m.id" :value="m.id">{{ m.name }}</option>
      </select>
    </label>
    <label class="choice">
      {{ w.purpose }}
      <select
        :aria-label="w.purpose"
        :value="settings.purpose ?? ''"
        :disabled="!!jobs.busy"
        @change="set({ purpose: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="p in purposes" :key="p.id" :value="p.id">{{ p.name }}</option>
      </select>
    </label>
    <p v-if="held.purpose_says" class="small quiet">{{ held.purpose_says }}</p>
    <RowField
      v-for="name in LIMITS"
      :key="name"
      :label="w[name]"
      :value="bears[name]"
      :show="(v: number) => (name === 'least_piece_mm2' ? `${v} mm²` : `${mm(v)} mm`)"
      :read="name === 'least_piece_mm2' ? area : size"
      :wrong="w.wrong"
      :disabled="!!jobs.busy"
      @take="(v: number | null) => setLimit(name, v)"
    />
    <TickField
      v-if="picks.pieces.length"
      :label="w.mustBeOne(picks.pieces.length)"
      :value="one"
      :disabled="!!jobs.busy"
      @take="(v) => jobs.setPieces(words.busy.choosing, picks.pieces, { one: v })"
    />
    <p v-else class="small quiet">{{ everyOne ? w.areOne(everyOne) : w.pickForOne }}</p>
    <router-link class="small" :to="{ name: 'lists', query: { job: jobs.job!.id, entry: settings.material || undefined } }">{{
      words.lists.edit
    }}</router-link>
  </FoldPart>
</template>

<style scoped>
p {
  margin: 0;
}
a {
  justify-self: start;
  color: var(--ink-2);
}
</style>
