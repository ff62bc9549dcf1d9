<script setup lang="ts">
import { computed } from 'vue'

import { lineLength, mm, number } from '@/composables/lengths'
import { SIZING, useDraft } from '@/stores/draft'
import { words } from '@/words'

/** What the step that is set up would do: in words, in figures, and which findings it makes or removes. */
const draft = useDraft()
const w = words.build

const sized = computed(() => !!draft.operation && SIZING.includes(draft.operation.id))
const figures = computed(() => {
  const now = draft.shown
  if (!now) return []
  const { before, after, report } = now
  const rows: [string, string, string][] = [
    [w.figures.pieces, number(before.pieces), number(after.pieces)],
    [w.figures.nodes, number(before.nodes), number(after.nodes)],
    [w.figures.line, lineLength(before.line_mm), lineLength(after.line_mm)],
    [w.figures.size, `${mm(before.width_mm)} × ${mm(before.height_mm)}`, `${mm(after.width_mm)} × ${mm(after.height_mm)}`],
  ]
  const changed = rows.filter(([, was, is]) => was !== is)
  if (report?.narrowest_mm) changed.push([w.figures.narrowest, '', `${mm(report.narrowest_mm)} mm`])
  if (report?.smallest_gap_mm) changed.push([w.figures.gap, '', `${mm(report.smallest_gap_mm)} mm`])
  return changed
})
const asked = computed(() => {
  const one = draft.missing
  if (!one) return ''
  if (one.by_press) return w.pressFirst(one.label)
  return one.kind === 'places' ? w.setFirst : w.typeFirst(one.label)
})
</script>

<template>
  <div class="part said" aria-live="polite">
    <p v-if="asked" class="quiet">{{ asked }}</p>
    <p v-else-if="draft.problem" class="flag">{{ draft.problem }}</p>
    <p v-else-if="draft.unseen" class="quiet">{{ draft.unseen }}</p>
    <template v-else-if="draft.shown">
      <p>
        <b>{{ draft.shown.title }}</b><template v-if="draft.shown.note">: {{ draft.shown.note }}</template>
      </p>
      <p v-if="sized && draft.shown.in_words" class="quiet">{{ draft.shown.in_words }}</p>
      <p
        v-if="draft.shown.verdict?.sentence"
        class="small"
        :class="{ flag: draft.shown.verdict.holds === false, good: draft.shown.verdict.holds }"
      >
        {{ draft.shown.verdict.sentence }}
      </p>
      <table v-if="figures.length" :aria-label="w.changes">
        <tr v-for="[label, was, is] in figures" :key="label">
          <th scope="row">{{ label }}</th>
          <td class="was">{{ was }}</td>
          <td>{{ is }}</td>
        </tr>
      </table>
      <p v-for="one in draft.shown.findings?.made ?? []" :key="`+${one.rule}`" class="flag small">{{ w.makes(one.title, one.count) }}</p>
      <p v-for="one in draft.shown.findings?.removed ?? []" :key="`-${one.rule}`" class="good small">{{ w.mends(one.title, one.count) }}</p>
      <p v-for="one in draft.shown.stopped" :key="one" class="flag small">{{ w.stops }} {{ one }}</p>
    </template>
    <p v-else class="quiet">{{ w.working }}</p>
  </div>
</template>

<style scoped>
.said {
  display: grid;
  gap: 8px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 12.5px;
  font-variant-numeric: tabular-nums;
}
th {
  padding: 2px 8px 2px 0;
  color: var(--ink-2);
  font-weight: 400;
  text-align: left;
}
td {
  padding: 2px 0 2px 8px;
  white-space: nowrap;
  font-weight: 650;
  text-align: right;
}
.was {
  color: var(--ink-2);
  font-weight: 400;
}
.flag {
  color: var(--flag);
}
.good {
  color: var(--good);
}
</style>
