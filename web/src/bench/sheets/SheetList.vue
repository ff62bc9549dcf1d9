<script setup lang="ts">
import { useUnits } from '@/composables/units'
import type { SheetShown } from '@/api/types'
import { useJob } from '@/stores/job'
import { useLists } from '@/stores/lists'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

/** All sheets, with what is used of each and what is wrong on it; one is shown on the work. */
const sheets = useSheets()
const lists = useLists()
const jobs = useJob()
const units = useUnits()
const w = words.sheets
/** What stays whole of a sheet goes onto the list of stock. */
async function keepOffcut(sheet: SheetShown) {
  const [width_mm, height_mm] = sheet.report.offcut_mm.map((side) => Math.floor(side * 10) / 10)
  const name = lists.freeName('stock', w.offcutOf(sheet.name.slice(0, 30), units.size(width_mm, height_mm)))
  const values = { name, width_mm, height_mm, material: sheet.material ?? '', outline: '', margin_mm: sheet.margin_mm }
  if (!(await lists.addNew('stock', values, w.offcutKept(name)))) jobs.problem = lists.problem
}
</script>

<template>
  <ul class="sheets" :aria-label="w.list">
    <li v-for="(sheet, k) in sheets.shown" :key="sheet.own">
      <button :aria-pressed="sheet.id === sheets.sheet?.id" @click="sheets.number = k">
        <span class="swatch" :style="{ background: sheet.color }" />
        <span class="name">
          <b>{{ sheet.name }}</b>
          <span class="small quiet">{{ units.size(sheet.width_mm, sheet.height_mm) }}</span>
        </span>
        <span class="small quiet">
          {{ w.about(sheet.report.pieces, sheet.report.used, sheet.mirrored) }}
        </span>
      </button>
      <template v-if="sheet.id === sheets.sheet?.id">
        <p class="small quiet figures">
          {{ units.line(sheet.report.line_mm) }} {{ w.line }};
          {{ w.offcut(units.size(sheet.report.offcut_mm[0], sheet.report.offcut_mm[1])) }}
          {{ ' '
          }}<button
            v-if="!sheets.drafted && Math.min(...sheet.report.offcut_mm) >= 10"
            class="link"
            :disabled="lists.busy"
            @click="keepOffcut(sheet)"
          >
            {{ w.keepOffcut }}
          </button>
        </p>
        <p v-if="sheet.report.nearest_mm != null" class="small quiet figures">{{ w.nearest(units.one(sheet.report.nearest_mm)) }}</p>
        <p v-if="sheet.lies" class="small quiet figures">{{ sheet.lies }}</p>
      </template>
      <p v-for="one in sheet.report.problems" :key="one.sentence" class="small wrong">{{ one.sentence }}</p>
    </li>
  </ul>
</template>

<style scoped>
.link {
  display: inline;
  width: auto;
  padding: 0;
  border: 0;
  border-radius: 0;
  color: inherit;
  text-decoration: underline;
}
.sheets {
  list-style: none;
  margin: 0;
  padding: 8px 12px;
  display: grid;
  gap: 4px;
}
button {
  width: 100%;
  display: grid;
  grid-template-columns: 18px 1fr;
  gap: 2px 10px;
  padding: 8px 10px;
  border: 1px solid transparent;
  border-radius: 8px;
  background: none;
  text-align: left;
  cursor: pointer;
}
button > :last-child {
  grid-column: 2;
}
button:hover {
  background: var(--raised);
}
button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--raised);
}
.swatch {
  width: 18px;
  height: 18px;
  border: 1px solid var(--edge);
  border-radius: 4px;
}
.name {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.figures,
.wrong {
  margin: 2px 0 4px 39px;
}
.wrong {
  color: var(--flag);
}
</style>
