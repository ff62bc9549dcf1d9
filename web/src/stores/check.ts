import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { client, want } from '@/api/client'
import type { Finding, Verdict } from '@/api/types'
import { words } from '@/words'

import { useBench } from './bench'
import { useDrawing } from './drawing'
import { sentenceOf } from './intake'
import { useJob } from './job'

/** All findings of one kind; `more` are counted but not listed. */
export interface Kind {
  id: string
  title: string
  level: Finding['level']
  findings: Finding[]
  more: number
}

const RANK = { note: 0, spoils: 1, stops: 2 }
const more = (finding: Finding) => Number((finding.measure as Record<string, unknown>).more ?? 0)

/** What was found, in kinds, the worst first; which of it is picked; and the answer to "will it hold together?". */
export const useCheck = defineStore('check', () => {
  const jobs = useJob()
  const bench = useBench()
  const drawing = useDrawing()
  /** Only what is on this layer is shown, where one is named. */
  const layer = ref('')
  const verdict = shallowRef<Verdict | null>(null)
  /** Why there is no answer. */
  const noAnswer = ref('')
  /** The way each finding is to be mended, of those that can be in several, by its kind. */
  const choices = ref<Record<string, string>>({})

  const layerOf = computed(() => new Map((drawing.drawing?.pieces ?? []).map((piece) => [piece.id, piece.layer])))
  const shown = computed(() =>
    layer.value ? jobs.open.filter((f) => f.pieces.some((id) => layerOf.value.get(id) === layer.value)) : jobs.open,
  )
  const layers = computed(() => {
    const used = new Set(jobs.open.flatMap((f) => f.pieces.map((id) => layerOf.value.get(id))))
    return (drawing.drawing?.layers ?? []).filter((one) => used.has(one.id))
  })

  const kinds = computed<Kind[]>(() => {
    const found = new Map<string, Kind>()
    for (const finding of shown.value) {
      const kind = found.get(finding.id) ?? { id: finding.id, title: finding.kind, level: finding.level, findings: [], more: 0 }
      if (RANK[finding.level] > RANK[kind.level]) kind.level = finding.level
      if (more(finding)) kind.more += more(finding)
      else kind.findings.push(finding)
      found.set(finding.id, kind)
    }
    return [...found.values()].sort((a, b) => RANK[b.level] - RANK[a.level] || first(a) - first(b))
  })
  const first = (kind: Kind) => kind.findings[0]?.number ?? Infinity
  /** In the order in which they are listed, so that next and previous go down and up the list. */
  const listed = computed(() => kinds.value.flatMap((kind) => kind.findings))
  const picked = computed(() => jobs.open.find((f) => f.key === bench.picked) ?? null)
  const safe = computed(() => shown.value.filter((f) => f.safe))

  function step(by: 1 | -1) {
    const keys = listed.value.map((f) => f.key)
    if (!keys.length) return
    const at = keys.indexOf(bench.picked ?? '')
    bench.picked = keys[at < 0 ? (by > 0 ? 0 : keys.length - 1) : (at + by + keys.length) % keys.length]
  }

  const leave = () => (jobs.aside.length ? { leave: jobs.aside.map((f) => f.key) } : {})
  const chosen = (finding: Finding) => choices.value[finding.id] ?? finding.choices[0]?.id ?? ''
  const choiceOf = (finding: Finding) => (finding.choices.length ? { choice: chosen(finding) } : {})

  async function mend(finding: Finding) {
    const at = listed.value.findIndex((f) => f.key === finding.key)
    const done = await jobs.addStep(words.busy.mending, 'mend', { keys: [finding.key], ...choiceOf(finding) })
    // The next one comes up by itself, so that a list is gone through with one key.
    if (done) bench.picked = listed.value[Math.min(at, listed.value.length - 1)]?.key ?? null
  }
  async function mendKind(kind: Kind) {
    const values = { rules: [kind.id], ...leave(), ...choiceOf(kind.findings[0]) }
    if (await jobs.addStep(words.busy.mending, 'mend', values)) bench.picked = null
  }
  async function mendAll() {
    if (await jobs.addStep(words.busy.mending, 'mend', leave())) bench.picked = null
  }
  async function setAside(finding: Finding) {
    const at = listed.value.findIndex((f) => f.key === finding.key)
    if (await jobs.setAside(finding.key, true)) bench.picked = listed.value[Math.min(at, listed.value.length - 1)]?.key ?? null
  }

  /** The answer for the revision on the bench; one that comes late for another is not shown. */
  async function answer() {
    const revision = jobs.head?.id
    verdict.value = null
    noAnswer.value = ''
    if (!revision || jobs.checking || jobs.unchecked || !jobs.head?.statistics.pieces) return
    try {
      const found = await want(
        client.GET('/api/jobs/{job}/revisions/{revision}/verdict', { params: { path: { job: jobs.job!.id, revision } } }),
      )
      if (jobs.head?.id === revision) verdict.value = found
    } catch (error) {
      if (jobs.head?.id === revision) noAnswer.value = sentenceOf(error)
    }
  }
  watch(() => [jobs.head?.id, jobs.findings], answer, { immediate: true })
  /** The mend of the picked finding, in the way that is chosen. */
  watch(
    () => [bench.picked, jobs.head?.id, picked.value && chosen(picked.value)] as const,
    async ([key, revision, choice]) => {
      bench.preview = null
      if (!key || !revision || !picked.value?.mendable) return
      const params = { path: { job: jobs.job!.id, revision, key }, query: choice ? { choice } : {} }
      const found = await want(client.GET('/api/jobs/{job}/revisions/{revision}/findings/{key}/mend', { params })).catch(() => null)
      if (bench.picked === key && jobs.head?.id === revision) bench.preview = found
    },
    { immediate: true },
  )
  watch(
    () => jobs.job?.id,
    () => (layer.value = ''),
  )

  return {
    layer,
    layers,
    verdict,
    noAnswer,
    answer,
    choices,
    chosen,
    shown,
    kinds,
    listed,
    picked,
    safe,
    step,
    mend,
    mendKind,
    mendAll,
    setAside,
  }
})
