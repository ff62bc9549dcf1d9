<script setup lang="ts">
import { mdiAlertOutline, mdiCheck } from '@mdi/js'
import { computed } from 'vue'

import type { Proof } from '@/api/types'
import { lineLength, mm } from '@/composables/lengths'
import { words } from '@/words'

const w = words.proof
/** The proof in a sentence and in figures. */
const props = defineProps<{ proof: Proof; theirs: string }>()

const sentence = computed(() => {
  const { max_deviation_mm: off, missing, extra } = props.proof
  if (missing || extra) {
    return w.wrong(missing, extra)
  }
  if (off === null) return w.oneSide
  return w.within(off.toFixed(3))
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
      <dt>{{ theirs ? w.theirs : w.file }}</dt>
      <dd>{{ proof.file.name }}, {{ kilobytes }}</dd>
      <dt>{{ w.deviation }}</dt>
      <dd>
        {{ w.limit(proof.max_deviation_mm === null ? w.none : `${proof.max_deviation_mm.toFixed(4)} mm`, proof.limit_mm) }}
        <template v-if="!proof.holds && proof.place">{{ w.at(mm(proof.place[0]), mm(proof.place[1])) }}</template>
      </dd>
      <dt>{{ w.line }}</dt>
      <dd>{{ w.lines(lineLength(proof.file_length_mm), lineLength(proof.design_length_mm)) }}</dd>
      <dt>{{ w.missing }}</dt>
      <dd>{{ proof.missing }}, {{ proof.extra }}</dd>
    </dl>
    <p v-if="proof.compensation?.kerf_off_mm != null" class="small">{{ words.working.kerf(proof.compensation.kerf_off_mm.toFixed(3)) }}</p>
    <p v-if="proof.compensation?.tip_off_mm != null" class="small">{{ words.working.tip(proof.compensation.tip_off_mm.toFixed(3)) }}</p>
    <p v-for="finding in proof.findings" :key="finding" class="small">{{ finding }}</p>
    <p v-for="note in proof.file.notes" :key="note" class="small quiet">{{ note }}</p>
    <p v-for="note in proof.not_understood" :key="note" class="small">{{ note }}</p>
    <p class="small quiet">{{ w.picture }}</p>
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
