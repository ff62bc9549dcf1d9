import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef } from 'vue'

import { client, want } from '@/api/client'
import type { JobListed } from '@/api/types'

import { sentenceOf } from './intake'

export type Sort = 'changed' | 'created' | 'name' | 'waiting'
/** So many jobs are on a page. */
const PAGE = 60
/** How long typing rests before it is searched for, in ms. */
const REST_MS = 200

/** The list of jobs: what is searched, the order, the page, what is selected; and changes of jobs, with their undo. */
export const useJobList = defineStore('jobList', () => {
  const jobs = shallowRef<JobListed[] | null>(null)
  const total = ref(0)
  const deletedCount = ref(0)
  const problem = ref('')
  const asked = reactive({ search: '', sort: 'changed' as Sort, page: 1, deleted: false })
  const selected = shallowRef<ReadonlySet<string>>(new Set())
  /** What was deleted last, to be brought back with one press. */
  const undoable = shallowRef<string[]>([])
  const pages = computed(() => Math.max(1, Math.ceil(total.value / PAGE)))
  let turn = 0
  let timer = 0

  /** The newest question counts. */
  async function load(): Promise<void> {
    const mine = ++turn
    problem.value = ''
    try {
      const found = await want(client.GET('/api/jobs', { params: { query: { ...asked, size: PAGE } } }))
      if (mine !== turn) return
      jobs.value = found.jobs
      total.value = found.total
      deletedCount.value = found.deleted
      if (asked.page > pages.value) return await show({ page: pages.value })
      const there = new Set(found.jobs.map((job) => job.id))
      selected.value = new Set([...selected.value].filter((id) => there.has(id)))
    } catch (error) {
      if (mine === turn) problem.value = sentenceOf(error)
    }
  }

  function show(wish: Partial<typeof asked>): Promise<void> {
    Object.assign(asked, { page: 1 }, wish)
    return load()
  }
  function search(text: string) {
    asked.search = text
    window.clearTimeout(timer)
    timer = window.setTimeout(() => void show({}), REST_MS)
  }

  function select(id: string, on: boolean) {
    const next = new Set(selected.value)
    if (on) next.add(id)
    else next.delete(id)
    selected.value = next
  }
  const selectAll = (on: boolean) => (selected.value = new Set(on ? jobs.value?.map((job) => job.id) : []))

  async function change(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work()
      await load()
      return true
    } catch (error) {
      problem.value = sentenceOf(error)
      return false
    }
  }
  const setDeleted = (ids: string[], deleted: boolean) =>
    change(() => want(client.POST('/api/jobs/deleted', { body: { jobs: ids, deleted } })))

  async function remove(ids: string[]) {
    if (await setDeleted(ids, true)) undoable.value = ids
  }
  async function bringBack(ids: string[]) {
    if (!(await setDeleted(ids, false))) return
    undoable.value = []
    // Where nothing deleted is left there is nothing more to look at.
    if (asked.deleted && !deletedCount.value) await show({ deleted: false })
  }
  const rename = (job: string, name: string) =>
    change(() => want(client.PATCH('/api/jobs/{job}', { params: { path: { job } }, body: { name } })))
  const copy = (job: string, name: string) =>
    change(() => want(client.POST('/api/jobs/{job}/copies', { params: { path: { job } }, body: { name } })))

  return {
    jobs,
    total,
    deletedCount,
    problem,
    asked,
    selected,
    undoable,
    pages,
    load,
    show,
    search,
    select,
    selectAll,
    remove,
    bringBack,
    rename,
    copy,
  }
})
