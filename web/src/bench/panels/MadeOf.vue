<script setup lang="ts">
import { computed } from 'vue'

import { useChosen } from '@/composables/chosen'
import { mm } from '@/composables/lengths'
import { useJob } from '@/stores/job'
import { words } from '@/words'

const jobs = useJob()
const chosen = useChosen()
const materials = computed(() => chosen.materials.value.map((m) => ({ title: m.name, value: m.id })))
const machines = computed(() =>
  chosen.machines.value.map((m) => ({
    title: m.name,
    value: m.id,
    props: 'reach_width_mm' in m ? { subtitle: words.made.reaches(mm(m.reach_width_mm), mm(m.reach_height_mm)) } : {},
  })),
)
</script>

<template>
  <div class="made">
    <h3>{{ words.made.title }}</h3>
    <v-select
      :label="words.made.material"
      :items="materials"
      :model-value="jobs.head!.settings.material ?? null"
      :disabled="!!jobs.busy"
      @update:model-value="(v: string) => jobs.set(words.busy.choosing, () => ({ material: v }))"
    />
    <v-select
      :label="words.made.machine"
      :items="machines"
      :model-value="jobs.head!.settings.machine ?? null"
      :disabled="!!jobs.busy"
      @update:model-value="(v: string) => jobs.set(words.busy.choosing, () => ({ machine: v }))"
    />
  </div>
</template>

<style scoped>
.made {
  padding: 14px 18px;
  display: grid;
  gap: 12px;
  border-bottom: 1px solid var(--rule);
}
h3 {
  margin: 0;
  font-size: 14px;
}
</style>
