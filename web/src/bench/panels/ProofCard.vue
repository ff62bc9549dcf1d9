<script setup lang="ts">
import { mdiAlertOutline, mdiCheck } from '@mdi/js'
import { computed } from 'vue'

import type { Proof } from '@/api/types'
import { lineLength, mm } from '@/composables/lengths'

/** The proof in a sentence and in figures. */
const props = defineProps<{ proof: Proof; theirs: string }>()

const sentence = computed(() => {
  const { max_deviation_mm: off, missing, extra } = props.proof
  if (missing || extra) {
    const parts = []
    if (missing) parts.push(`${missing} ${missing === 1 ? 'line is' : 'lines are'} missing`)
    if (extra) parts.push(`${extra} ${extra === 1 ? 'line is' : 'lines are'} too many`)
    return `In the file, ${parts.join(' and ')}.`
  }
  if (off === null) return 'The file cannot be compared: one side has no lines.'
  return `The file lies on the design within ${off.toFixed(3)} mm.`
})
const kilobytes = computed(() => `${Math.max(props.proof.file.bytes / 1024, 0.1).toFixed(1)} kB`)
</script>

<template>
  <div class="proof" :class="{ bad: !proof.holds }" role="status">
    <p class="verdict">
      <v-icon :icon="proof.holds ? mdiCheck : mdiAlertOutline" size="20" />
      <b>{{ sentence }}</b>
    </p>
    <dl>
      <dt>{{ theirs ? 'proven file' : 'file' }}</dt>
      <dd>{{ proof.file.name }}, {{ kilobytes }}</dd>
      <dt>largest deviation</dt>
      <dd>
        {{ proof.max_deviation_mm === null ? 'none' : `${proof.max_deviation_mm.toFixed(4)} mm` }}, at most
        {{ proof.limit_mm }} mm is right
        <template v-if="!proof.holds && proof.place">; at {{ mm(proof.place[0]) }}, {{ mm(proof.place[1]) }} mm</template>
      </dd>
      <dt>line in the file</dt>
      <dd>{{ lineLength(proof.file_length_mm) }}, in the design {{ lineLength(proof.design_length_mm) }}</dd>
      <dt>missing, too many</dt>
      <dd>{{ proof.missing }}, {{ proof.extra }}</dd>
    </dl>
    <p v-for="note in proof.file.notes" :key="note" class="small quiet">{{ note }}</p>
    <p v-for="note in proof.not_understood" :key="note" class="small">{{ note }}</p>
    <p class="small quiet">The picture is drawn from the file's own bytes, read back; the pale band is the design.</p>
  </div>
</template>

<style scoped>
.proof {
  margin: 0 18px;
  padding: 12px 14px;
  display: grid;
  gap: 8px;
  border-radius: 8px;
  background: var(--good-ground);
}
.verdict {
  display: flex;
  gap: 8px;
  align-items: start;
  color: var(--good);
}
.bad {
  background: var(--flag-ground);
}
.bad .verdict {
  color: var(--flag);
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px 12px;
  margin: 0;
  font-size: 12.5px;
}
dt {
  color: var(--ink-2);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
