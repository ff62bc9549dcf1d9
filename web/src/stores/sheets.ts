import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, want } from '@/api/client'
import type { SheetShown } from '@/api/types'
import { words } from '@/words'

import { useDraft } from './draft'
import { useJob } from './job'

const fine = (value: number) => Math.round(value * 1000) / 1000

/** By the id of a sheet, x, y and turn of what lies on it, by their keys. */
type SoFar = Record<string, Record<string, [number, number, number]>>
/** A sheet with what lies on it by now. The step that is set up has no key yet: sheets go by what follows it. */
export function asPacked(sheet: SheetShown, all: SheetShown[], so_far: SoFar): SheetShown {
  const found = Object.entries(so_far).find(([id]) => id.slice(id.indexOf(':') + 1) === sheet.own)
  if (!found) return sheet
  const same = all.filter((other) => other.layers.join() === sheet.layers.join())
  const shapes = Object.assign({}, ...same.map((other) => other.shapes)) as SheetShown['shapes']
  const items = Object.entries(found[1]).map(([key, [x, y, turn]]) => ({ key, item: key.slice(0, key.lastIndexOf('*')), x, y, turn }))
  // Where numbers have room, and what is wrong, is told of the packing that is kept.
  return { ...sheet, shapes, items, numbers: '', report: { ...sheet.report, problems: [] } }
}

/** The sheets of the job as they are shown: kept ones, or those of a step that is set up. */
export const useSheets = defineStore('sheets', () => {
  const job = useJob()
  const draft = useDraft()
  const kept = shallowRef<SheetShown[]>([])
  /** The revision whose sheets were read last. */
  const of = ref(0)
  const number = ref(0)
  /** What is picked of what lies on the sheet, by its key. */
  const picked = ref('')

  const drafted = computed(() => (draft.operation?.station === 'sheet' ? (draft.shown?.sheets ?? null) : null))
  /** A packing that gets better is shown as it is by now. */
  const shown = computed(() => {
    const sheets = drafted.value ?? kept.value
    const so_far = job.run?.so_far as SoFar | null | undefined
    return so_far ? sheets.map((sheet) => asPacked(sheet, sheets, so_far)) : sheets
  })
  const sheet = computed<SheetShown | undefined>(() => shown.value[Math.min(number.value, shown.value.length - 1)])
  const item = computed(() => sheet.value?.items.find(({ key }) => key === picked.value))

  async function load() {
    const revision = job.head?.id
    if (!revision || !job.job || of.value === revision) return
    const params = { path: { job: job.job.id, revision } }
    const found = await want(client.GET('/api/jobs/{job}/revisions/{revision}/sheets', { params }))
    // The answer is older than a move that is being sent: the sheets are read again after it.
    if (job.head?.id !== revision || sending) return
    kept.value = found
    of.value = revision
  }
  watch(
    () => job.job?.id,
    () => {
      kept.value = []
      of.value = number.value = 0
      picked.value = ''
    },
  )
  watch(sheet, (now) => {
    if (!now?.items.some(({ key }) => key === picked.value)) picked.value = ''
  })

  /** Lays what is picked elsewhere: x, y of its centre in mm from the sheet's top left, as it looks from the front. It is
   * shown there at once; what comes while a move is on its way goes with the next one. */
  async function lay(x: number, y: number, turn: number) {
    const [one, on] = [item.value, sheet.value]
    if (!one || !on || (fine(x) === fine(one.x) && fine(y) === fine(one.y) && turn === one.turn)) return
    const there = { x: fine(x), y: fine(y), turn: fine(turn) }
    const items = on.items.map((each) => (each.key === one.key ? { ...each, ...there } : each))
    kept.value = kept.value.map((each) => (each.id === on.id ? { ...each, items } : each))
    waiting = { sheet: on.id, moves: { ...(waiting?.sheet === on.id ? waiting.moves : {}), [one.key]: [there.x, there.y, there.turn] } }
    if (sending) return
    sending = true
    try {
      while (waiting) {
        const { sheet: id, moves } = waiting
        waiting = null
        if (!(await put(id, moves))) of.value = 0
      }
    } finally {
      sending = false
      void load()
    }
  }
  let waiting: { sheet: string; moves: Record<string, number[]> } | null = null
  let sending = false
  /** Moves on one sheet that follow each other are one step. */
  function put(id: string, moves: Record<string, number[]>): Promise<boolean> {
    const last = job.head?.steps.at(-1)
    const was = (last?.parameters ?? {}) as { sheet?: string; moves?: object }
    const again = last?.operation === 'lay' && !last.stopped && was.sheet === id
    const parameters = { sheet: id, moves: { ...(again ? was.moves : {}), ...moves } }
    return job.putStep(words.sheets.laying, { ...(again ? { key: last.key } : {}), operation: 'lay', parameters, selection: {} })
  }
  /** Sets what is otherwise of the sheet that is shown, in the step that is set up or in the kept one. */
  async function own(values: Record<string, unknown>) {
    const name = sheet.value?.own
    if (!name) return
    const merged = (before: unknown) => {
      const all = (before ?? {}) as Record<string, object>
      return { ...all, [name]: { ...all[name], ...values } }
    }
    if (draft.operation?.id === 'sheets') return draft.setAll({ own: merged(draft.values.own) })
    const step = job.head?.steps.findLast((one) => one.operation === 'sheets')
    if (!step) return
    const was = step.parameters as Record<string, unknown>
    const parameters = { ...was, own: merged(was.own) }
    await job.putStep(words.sheets.laying, { key: step.key, operation: 'sheets', parameters, selection: {} })
  }
  return { shown, drafted, sheet, number, picked, item, load, lay, own }
})
