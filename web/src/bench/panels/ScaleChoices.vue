<script setup lang="ts">
import { computed } from 'vue'

import { mm } from '@/composables/lengths'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'

/** Where a file states no unit: what it may have meant, as sizes a person can check, each one press. */
const jobs = useJob()
const drawing = useDrawing()
const doubt = computed(() => jobs.findings.find((f) => f.id === 'no-unit' && !f.set_aside))

const choices = computed(() => {
  const picture = drawing.drawing?.pictures[0]
  const bare = picture && !jobs.head!.figures.pieces
  const { width_mm: width, height_mm: height } = bare
    ? { width_mm: drawing.drawing!.frame[0], height_mm: drawing.drawing!.frame[1] }
    : jobs.head!.figures
  const perInch = picture?.px_per_inch ?? 96
  const options = bare
    ? [72, 150, 300, 600].map((n) => ({ name: `${n} pixels an inch`, factor: perInch / n }))
    : [
    { name: '72 units an inch', factor: 96 / 72 },
    { name: '90 units an inch', factor: 96 / 90 },
    { name: 'a unit is a millimetre', factor: 96 / 25.4 },
  ]
  return options.map((o) => ({ ...o, size: `${mm(width * o.factor)} × ${mm(height * o.factor)} mm` }))
})
const take = (name: string, factor: number) => void jobs.addStep('Sizing', 'resize', { factor, reason: `Read as ${name}` })
const resized = computed(() => jobs.head!.steps.some((s) => s.operation === 'resize' && s.enabled))
</script>

<template>
  <div v-if="doubt && !resized" class="doubt">
    <h3>Is this size right?</h3>
    <p class="small quiet">{{ doubt.message }} If that is not what was meant:</p>
    <div class="choices">
      <button v-for="c in choices" :key="c.name" :disabled="!!jobs.busy" @click="take(c.name, c.factor)">
        <b>{{ c.size }}</b>
        <span class="small quiet">{{ c.name }}</span>
      </button>
    </div>
    <v-btn size="small" variant="text" :disabled="!!jobs.busy" @click="jobs.setAside(doubt.key, true)">
      It is right as it is
    </v-btn>
  </div>
</template>

<style scoped>
.doubt {
  padding: 14px 18px;
  display: grid;
  gap: 8px;
  justify-items: start;
  border-bottom: 1px solid var(--rule);
  background: var(--raised);
}
h3 {
  margin: 0;
  font-size: 14px;
  color: var(--flag);
}
.choices {
  display: grid;
  gap: 6px;
  width: 100%;
}
.choices button {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding: 8px 12px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  cursor: pointer;
}
.choices button:hover {
  border-color: var(--ink);
}
</style>
