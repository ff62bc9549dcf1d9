import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { client, Refused, want } from '@/api/client'
import type { Library } from '@/api/types'
import { words } from '@/words'

import { useLibrary } from './library'

export type Kind = 'materials' | 'machines' | 'purposes' | 'targets' | 'stock' | 'settings'
export type Entry = Record<string, string | number | boolean | null> & { id: string; name: string }
interface Change {
  kind: Kind
  rows: Entry[]
  what: string
}

/** The lists as they are edited: each change is kept as it is made, and can be undone. */
export const useLists = defineStore('lists', () => {
  const library = useLibrary()
  const busy = ref(false)
  const problem = ref('')
  const past = shallowRef<Change[]>([])
  const ahead = shallowRef<Change[]>([])

  const rowsOf = (from: Pick<Library, Kind>, kind: Kind) => (from[kind] as unknown as Entry[]).filter((row) => row.id)
  const rows = (kind: Kind) => rowsOf(library.library, kind)
  const shipped = (kind: Kind) => rowsOf(library.library.shipped, kind)
  const asShipped = (kind: Kind, id: string) => shipped(kind).find((row) => row.id === id)
  const missing = (kind: Kind) => shipped(kind).filter((row) => !rows(kind).some((now) => now.id === row.id))
  const isChanged = (kind: Kind, row: Entry) => {
    const came = asShipped(kind, row.id)
    return !!came && JSON.stringify(came) !== JSON.stringify(row)
  }

  async function put({ kind, rows: entries, what }: Change): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    problem.value = ''
    try {
      const body = { based_on: library.library.lists, entries, what: what.slice(0, 200) }
      library.library = await want(client.PUT('/api/library/{kind}', { params: { path: { kind } }, body }))
      return true
    } catch (error) {
      problem.value = error instanceof Refused ? error.sentence : String(error)
      // What somebody else did meanwhile is shown; what was typed is there to be typed again.
      if (error instanceof Refused && error.code === 'changed-meanwhile') await library.load(true).catch(() => {})
      return false
    } finally {
      busy.value = false
    }
  }

  async function change(kind: Kind, entries: Entry[], what: string): Promise<boolean> {
    const before = { kind, rows: rows(kind), what }
    if (!(await put({ kind, rows: entries, what }))) return false
    past.value = [...past.value, before]
    ahead.value = []
    return true
  }

  /** Goes to what was before the last change, or after the next. */
  async function step(from: typeof past, to: typeof past) {
    const last = from.value.at(-1)
    if (!last) return
    const now = { ...last, rows: rows(last.kind) }
    if (!(await put(last))) return
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, now]
  }

  const set = (kind: Kind, id: string, values: Partial<Entry>, what: string) =>
    change(
      kind,
      rows(kind).map((row) => (row.id === id ? ({ ...row, ...values } as Entry) : row)),
      what,
    )

  const takeOff = (kind: Kind, row: Entry) =>
    change(
      kind,
      rows(kind).filter((one) => one.id !== row.id),
      words.lists.did.off(row.name),
    )

  const putBack = (kind: Kind) => change(kind, [...rows(kind), ...missing(kind)], words.lists.did.putBack)

  /** One more entry, like another one or like the first that ships; its id. */
  async function add(kind: Kind, like?: Entry): Promise<string | null> {
    const w = words.lists
    const taken = new Set(rows(kind).map((row) => row.name.toLowerCase()))
    let number = 1
    while (taken.has(w.named(w.one[kind], number))) number++
    const name = w.named(w.one[kind], number)
    return addNew(kind, { ...(like ?? shipped(kind)[0]), name }, w.did.added(name))
  }
  /** A name that no entry has yet: the one that is wanted, or with a number. */
  function freeName(kind: Kind, wanted: string): string {
    const taken = new Set(rows(kind).map((row) => row.name.toLowerCase()))
    let number = 1
    const name = () => (number > 1 ? `${wanted} ${number}` : wanted)
    while (taken.has(name().toLowerCase())) number++
    return name()
  }
  /** An entry of its own; its id. */
  async function addNew(kind: Kind, values: Omit<Entry, 'id'> & { name: string }, what: string): Promise<string | null> {
    // Never the number of one that was there before: jobs may still go by that.
    const id = `my-${words.lists.one[kind]}-${Math.random().toString(36).slice(2, 8)}`
    const made = { ...values, id } as Entry
    return (await change(kind, [...rows(kind), made], what)) ? made.id : null
  }

  return {
    busy,
    problem,
    past,
    ahead,
    rows,
    missing,
    isChanged,
    asShipped,
    set,
    takeOff,
    putBack,
    add,
    addNew,
    freeName,
    lastWhat: computed(() => past.value.at(-1)?.what ?? ''),
    nextWhat: computed(() => ahead.value.at(-1)?.what ?? ''),
    undo: () => step(past, ahead),
    redo: () => step(ahead, past),
  }
})
