<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'

import { client, Refused, want } from '@/api/client'
import type { SheetProof } from '@/api/types'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

/** The file of the sheet that is shown, proven; and the page by which it is laid on its carrier. */
const sheets = useSheets()
const jobs = useJob()
const library = useLibrary()
const w = words.sheets

const machine = computed(() => library.library.machines.find((m) => m.id === (sheets.sheet?.machine ?? jobs.head?.settings.machine)))
const formats = computed(() => library.library.formats.filter((f) => f.writes))
const chosen = ref('')
const format = computed(() => formats.value.find((f) => f.id === (chosen.value || machine.value?.format || 'svg')))
const nth = computed(() => sheets.shown.findIndex((one) => one.id === sheets.sheet?.id) + 1)
const address = computed(() => `/api/jobs/${jobs.job!.id}/revisions/${jobs.head!.id}/sheets/${nth.value}`)
const proof = shallowRef<SheetProof | null>(null)
const trouble = ref('')
let turn = 0
watch(
  () => [jobs.head?.id, nth.value, format.value?.id],
  async () => {
    const now = ++turn
    proof.value = null
    trouble.value = ''
    if (!jobs.job || !jobs.head || !nth.value || !format.value?.reads) return
    const params = { path: { job: jobs.job.id, revision: jobs.head.id, sheet: nth.value, format_id: format.value.id } }
    try {
      const made = await want(client.GET('/api/jobs/{job}/revisions/{revision}/sheets/{sheet}/proof/{format_id}', { params }))
      if (now === turn) proof.value = made
    } catch (error) {
      if (now === turn) trouble.value = error instanceof Refused ? error.sentence : String(error)
    }
  },
  { immediate: true },
)
</script>

<template>
  <div class="files">
    <label class="row small">
      <span>{{ w.files }}</span>
      <select :value="format?.id" :aria-label="words.handover.format" @change="chosen = ($event.target as HTMLSelectElement).value">
        <option v-for="f in formats" :key="f.id" :value="f.id">{{ f.name }}</option>
      </select>
    </label>
    <p v-if="proof" class="small" :class="proof.holds ? 'quiet' : 'wrong'">{{ proof.holds ? w.proven : w.unproven }}</p>
    <p v-else-if="trouble" class="small wrong" role="alert">{{ trouble }}</p>
    <p class="small links">
      <a :href="`${address}/files/${format?.id}`" download>{{ w.write(format?.name ?? '') }}</a>
      <a :href="`${address}/placing/pdf`" download>{{ w.placing }}</a>
      <template v-if="sheets.sheet?.prints">
        <a :href="`${address}/print`" download>{{ w.print }}</a>
        <a v-if="sheets.sheet.marks" :href="`${address}/print?marks=true`" download>{{ w.marks }}</a>
      </template>
    </p>
  </div>
</template>

<style scoped>
.files {
  padding: 12px 18px;
  display: grid;
  gap: 6px;
  border-top: 1px solid var(--rule);
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
select {
  height: 30px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.links a {
  color: inherit;
  font-weight: 600;
}
.wrong {
  color: var(--flag);
}
p {
  margin: 0;
}
</style>
