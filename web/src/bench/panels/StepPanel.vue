<script setup lang="ts">
import { computed } from 'vue'

import type { Parameter } from '@/api/types'
import { TREATMENT } from '@/canvas/patterns'
import { useBench } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import LengthField from '../LengthField.vue'
import PanelFrame from '../PanelFrame.vue'
import TickField from '../TickField.vue'

/** A step reopened with its values, as a form made from its operation; each change is a step of its own to go back on,
 * and all later steps follow. */
const bench = useBench()
const jobs = useJob()
const library = useLibrary()
const picks = usePicks()
const w = words.step

const step = computed(() => jobs.head!.steps.find((one) => one.key === bench.reopened))
const form = computed(() => library.library.operations.find((one) => one.id === step.value?.operation))
/** What a person has no word for, such as hashes and ids, is not shown. */
const INNER = ['source', 'picture', 'keys', 'rules', 'leave', 'layers', 'layer', 'mode', 'to', 'reading', 'reason']
const fields = computed(() => (form.value?.parameters ?? []).filter((one) => !INNER.includes(one.name) && !one.type.includes('tuple')))
const values = computed(() => (step.value?.parameters ?? {}) as Record<string, unknown>)
const value = (field: Parameter) => values.value[field.name] ?? field.default
const pieces = computed(() => values.value.pieces as string[] | undefined)

function take(name: string, next: unknown) {
  const all: Record<string, unknown> = { ...values.value, [name]: next }
  // A size is given by its width or its height: typing one lets go of the other.
  if (form.value?.id === 'resize') for (const other of ['width_mm', 'height_mm', 'factor']) if (other !== name) delete all[other]
  void jobs.changeStep(w.changing, step.value!.key, all)
}
function typed(field: Parameter, event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  if (!field.type.includes('float')) return take(field.name, text)
  const number = Number(text.replace(',', '.'))
  if (text && Number.isFinite(number)) take(field.name, number)
}
const nameOf = (field: Parameter) => field.help.replace(/^./, (first) => first.toUpperCase()) + (field.unit && field.unit !== 'mm' ? ` (${field.unit})` : '')
</script>

<template>
  <PanelFrame :title="step?.title ?? w.reopen">
    <template #head>
      <p v-if="step?.stopped" class="flag">{{ step.stopped }}</p>
      <p v-else class="quiet">{{ step?.note || w.follow }}</p>
    </template>
    <div class="part form">
      <template v-for="field in fields" :key="field.name">
        <LengthField
          v-if="field.unit === 'mm' && typeof value(field) === 'number'"
          :label="nameOf(field)"
          :value="value(field) as number"
          :disabled="!!jobs.busy"
          @take="take(field.name, $event)"
        />
        <v-select
          v-else-if="field.choices.length"
          :label="nameOf(field)"
          :model-value="value(field)"
          :items="field.choices.map((word) => ({ value: word, title: TREATMENT[word as keyof typeof TREATMENT]?.name ?? word }))"
          :disabled="!!jobs.busy"
          @update:model-value="take(field.name, $event)"
        />
        <TickField v-else-if="field.type.includes('bool')" :label="nameOf(field)" :value="!!value(field)" :disabled="!!jobs.busy" @take="take(field.name, $event)" />
        <v-text-field
          v-else
          :label="nameOf(field)"
          :model-value="value(field) ?? ''"
          :placeholder="w.none"
          persistent-placeholder
          :disabled="!!jobs.busy"
          autocomplete="off"
          @change="typed(field, $event)"
        />
      </template>
      <template v-if="pieces">
        <p>{{ w.forPieces(pieces.length) }}</p>
        <v-btn variant="outlined" :disabled="!picks.pieces.length || !!jobs.busy" @click="take('pieces', picks.pieces)">{{ w.pickAnew }}</v-btn>
      </template>
      <p v-if="!fields.length && !pieces" class="quiet">{{ w.nothing }}</p>
      <p v-else class="small quiet">{{ w.follow }}</p>
    </div>
    <template #foot>
      <v-btn color="primary" size="large" block @click="bench.reopened = ''">{{ w.done }}</v-btn>
    </template>
  </PanelFrame>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}
.flag {
  color: var(--flag);
}
</style>
