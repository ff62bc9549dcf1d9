<script setup lang="ts">
import { ref, watch } from 'vue'

import { client, want } from '@/api/client'
import type { JobListed } from '@/api/types'
import { useUnits } from '@/composables/units'
import { useJob } from '@/stores/job'
import { words } from '@/words'

/** Another job, to be looked at beside this one. */
const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; choose: [state: { job: string; document: string; name: string }] }>()
const jobs = useJob()
const units = useUnits()
const all = ref<JobListed[]>([])
watch(
  () => props.open,
  async (open) => {
    if (!open) return
    const found = await want(client.GET('/api/jobs', { params: { query: { size: 200 } } })).catch(() => null)
    all.value = (found?.jobs ?? []).filter((one) => one.id !== jobs.job?.id && one.pieces)
  },
)
function choose(job: JobListed) {
  emit('choose', { job: job.id, document: job.document, name: job.name })
  emit('close')
}
</script>

<template>
  <v-dialog :model-value="open" max-width="460" :aria-label="words.jobs.choose" @update:model-value="emit('close')">
    <section class="choice">
      <h2>{{ words.jobs.choose }}</h2>
      <ul v-if="all.length">
        <li v-for="job in all" :key="job.id">
          <button @click="choose(job)">
            {{ job.name }} <span class="quiet small">{{ units.size(job.width_mm, job.height_mm) }}</span>
          </button>
        </li>
      </ul>
      <p v-else class="quiet">{{ words.jobs.none }}</p>
      <v-btn variant="outlined" @click="emit('close')">{{ words.jobs.close }}</v-btn>
    </section>
  </v-dialog>
</template>

<style scoped>
.choice {
  display: grid;
  gap: 14px;
  justify-items: start;
  padding: 22px;
  border-radius: 10px;
  background: var(--panel);
  color: var(--ink);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
  max-height: 50vh;
  overflow: auto;
}
button {
  width: 100%;
  padding: 8px 10px;
  border: 0;
  border-radius: 8px;
  background: none;
  text-align: left;
  cursor: pointer;
}
li button:hover {
  background: var(--raised);
}
</style>
