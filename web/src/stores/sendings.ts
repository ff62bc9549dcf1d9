import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, Refused, want } from '@/api/client'
import type { Sending } from '@/api/types'
import { words } from '@/words'

import { useJob } from './job'
import { useWorking } from './working'

/** How often it is asked how far a machine is, in ms. */
const LOOK_MS = 400
const GOING = ['waiting', 'running']

/** What is sent of the job to its machines, and how far each is. */
export const useSendings = defineStore('sendings', () => {
  const job = useJob()
  const working = useWorking()
  const rows = shallowRef<Sending[]>([])
  const problem = ref('')
  /** The same file was sent before: it is sent again only when that is wanted. */
  const before = ref('')
  const busy = ref(false)
  let timer = 0

  const newest = computed<Sending | undefined>(() => rows.value[0])
  const going = computed(() => rows.value.some((row) => GOING.includes(row.state)))

  async function load() {
    if (!job.job) return
    const of = job.job.id
    const found = await want(client.GET('/api/jobs/{job}/sendings', { params: { path: { job: of } } }))
    if (job.job?.id !== of) return
    rows.value = found
    show()
    window.clearTimeout(timer)
    if (going.value) timer = window.setTimeout(() => void load().catch(() => look()), LOOK_MS)
  }
  /** Looks again after a while, when an answer did not come. */
  function look() {
    timer = window.setTimeout(() => void load().catch(() => look()), 5 * LOOK_MS)
  }
  /** The work is shown as far as the machine is. */
  function show() {
    const row = newest.value
    if (!row || row.state !== 'running' || row.sheet !== working.sheet || row.revision !== job.head?.id) return
    const at = working.shown
    if (at && at.ends.length === row.strokes) working.seek(row.done ? at.ends[row.done - 1] : 0)
  }
  async function change(work: () => Promise<unknown>) {
    if (busy.value) return
    busy.value = true
    problem.value = before.value = ''
    try {
      await work()
      await load()
    } catch (error) {
      const said = error instanceof Refused ? error.sentence : String(error)
      if (error instanceof Refused && error.code === 'changed-meanwhile') before.value = said
      else problem.value = said
    } finally {
      busy.value = false
    }
  }
  function send(again = false) {
    const program = working.shown?.program
    const revision = job.head?.id
    if (!program || !job.job || !revision) return
    const params = { path: { job: job.job.id, revision } }
    const done = working.done.map((piece) => program.pieces[piece])
    const body = { sheet: working.sheet, from_run: working.from, done, again }
    void change(() => want(client.POST('/api/jobs/{job}/revisions/{revision}/program/sendings', { params, body })))
  }
  function tell(row: Sending, what: 'pause' | 'cancel' | 'go-on' | 'go-on-behind' | 'begin-anew') {
    const params = { path: { job: job.job!.id, sending: row.id, what } }
    void change(() => want(client.POST('/api/jobs/{job}/sendings/{sending}/{what}', { params })))
  }
  watch(
    () => job.job?.id,
    () => {
      window.clearTimeout(timer)
      rows.value = []
      problem.value = before.value = ''
    },
  )
  const sentence = (row: Sending) => words.sending.state(row.state, row.machine_name, row.wish)
  return { rows, newest, going, problem, before, busy, load, send, tell, sentence }
})
