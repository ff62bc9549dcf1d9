<script setup lang="ts">
import { computed } from 'vue'

import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

const jobs = useJob()
const library = useLibrary()
const materials = computed(() => library.library.materials.map((m) => ({ title: m.name, value: m.id })))
const machines = computed(() =>
  library.library.machines.map((m) => ({
    title: m.name,
    value: m.id,
    props: { subtitle: words.made.reaches(m.reach_width_mm, m.reach_height_mm) },
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
