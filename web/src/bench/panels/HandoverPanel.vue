<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'

import { client, formOf, Refused, want } from '@/api/client'
import type { Proof } from '@/api/types'
import { numberOf } from '@/composables/numberOf'
import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import PieceList from './PieceList.vue'
import ProofCard from './ProofCard.vue'

const w = words.handover
const jobs = useJob()
const bench = useBench()
const drawing = useDrawing()
const library = useLibrary()
const sheets = useSheets()

const formats = computed(() => library.library.formats.filter((f) => f.writes))
/** What is chosen here, or what the job's machine takes. */
const picked = ref('')
const machine = computed(() => library.library.machines.find((one) => one.id === jobs.head?.settings.machine))
const format = computed({ get: () => picked.value || machine.value?.format || 'hpgl', set: (id) => (picked.value = id) })
const working = ref(false)
const trouble = ref('')
const theirs = ref('')
const chooser = ref<HTMLInputElement | null>(null)
const latest = shallowRef(0)
const empty = computed(() => !jobs.head?.statistics.pieces)
/** Pieces that nobody sees and that are in the file all the same. */
const unseen = computed(() => {
  const { layers = {}, pieces = {} } = jobs.head?.settings ?? {}
  const made = drawing.drawn.filter(({ layer }) => layer.treatment !== 'leave-out')
  return made.filter(({ piece, layer }) => layers[layer.id]?.hidden || pieces[piece.id]?.hidden).map(({ piece }) => piece.id)
})
const leaveOut = () => void jobs.addStep(words.picked.removing, 'remove', {}, unseen.value)
const chosen = computed(() => formats.value.find((f) => f.id === format.value))
const grave = computed(() => numberOf(jobs.open.filter((f) => f.level !== 'note')))
const address = computed(() => `/api/jobs/${jobs.job!.id}/revisions/${jobs.head!.id}/files/${format.value}`)

onMounted(() => void sheets.load().catch(() => {}))

/** The newest question counts; an older answer is not shown. */
async function prove(ask: () => Promise<Proof>) {
  const turn = ++latest.value
  working.value = true
  trouble.value = ''
  bench.proof = null
  try {
    const proof = await ask()
    if (turn === latest.value) bench.proof = proof
  } catch (error) {
    if (turn === latest.value) trouble.value = error instanceof Refused ? error.sentence : String(error)
  } finally {
    if (turn === latest.value) working.value = false
  }
}

function proveOurs() {
  theirs.value = ''
  const revision = jobs.head?.id
  if (!revision || empty.value || !chosen.value?.reads) {
    latest.value++
    working.value = false
    bench.proof = null
    return
  }
  void prove(() =>
    want(
      client.GET('/api/jobs/{job}/revisions/{revision}/proof/{format_id}', {
        params: { path: { job: jobs.job!.id, revision, format_id: format.value } },
      }),
    ),
  )
}
watch(() => [jobs.head?.id, format.value, formats.value.length], proveOurs, { immediate: true })

function proveTheirs(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  theirs.value = file.name
  void prove(() =>
    want(
      client.POST('/api/jobs/{job}/revisions/{revision}/proof', {
        params: { path: { job: jobs.job!.id, revision: jobs.head!.id } },
        body: { file: file as never },
        bodySerializer: (b) => formOf({ file: b.file as never }),
      }),
    ),
  )
}
</script>

<template>
  <PanelFrame :title="words.stations.handover">
    <template #head>
      <p v-if="empty" class="quiet">{{ jobs.head?.steps.length ? w.nothing : w.empty }}</p>
      <p v-else class="quiet">{{ w.question }}</p>
    </template>

    <template v-if="!empty">
      <div class="formats" role="radiogroup" :aria-label="w.format">
        <label v-for="f in formats" :key="f.id" :class="{ on: f.id === format }">
          <input v-model="format" type="radio" name="format" :value="f.id" class="unseen" />
          <b>{{ f.name }}</b> <span class="small quiet">{{ f.suffix }}</span>
        </label>
      </div>
      <p v-if="chosen" class="small quiet about">{{ w.about[chosen.id] }}</p>
      <p v-if="sheets.shown.length" class="small about">
        {{ w.onSheets(sheets.shown.length) }}
        <router-link :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'sheet' } }">{{ w.ofSheets }}</router-link>{{
          w.allSheets
        }}
      </p>
      <p v-if="grave" class="warn">
        <router-link :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'check' } }"> {{ w.grave(grave) }}</router-link>{{
          w.asItIs
        }}
      </p>
      <p v-else-if="jobs.checking || jobs.unchecked" class="warn">{{ jobs.checking ? words.check.looking : words.check.unchecked }}</p>
      <p v-if="unseen.length" class="warn unseen-pieces">
        {{ w.hidden(unseen.length) }}
        <button :disabled="!!jobs.busy" @click="leaveOut">{{ w.leaveOut(unseen.length) }}</button>
      </p>
      <v-progress-linear v-if="working" :aria-label="words.notices.howFar" indeterminate color="primary" height="2" />
      <p v-if="trouble" class="warn" role="alert">{{ trouble }}</p>
      <p v-if="chosen && !chosen.reads && !theirs" class="unproven small">
        {{ w.unproven(chosen.name) }}
      </p>
      <ProofCard v-if="bench.proof" :proof="bench.proof" :theirs="theirs" />
      <PieceList v-if="bench.proof" :proof="bench.proof" />
      <p class="small quiet about pages">
        <a :href="`/api/jobs/${jobs.job!.id}/revisions/${jobs.head!.id}/archive`" class="first" download>{{ w.archive }}</a>{{
          w.archiveHint
        }}
      </p>
      <p class="small quiet about pages">
        {{ w.assembly }}
        <a
          v-for="kind in ['pdf', 'svg']"
          :key="kind"
          :href="`/api/jobs/${jobs.job!.id}/revisions/${jobs.head!.id}/assembly/${kind}`"
          download
          >{{ w.asPage(kind.toUpperCase()) }}</a
        >
      </p>
      <div class="other">
        <v-btn variant="text" size="small" :disabled="working" @click="chooser?.click()">{{ w.proveTheirs }}</v-btn>
        <v-btn v-if="theirs" variant="text" size="small" @click="proveOurs">{{ w.backToOurs }}</v-btn>
        <input ref="chooser" class="unseen" type="file" tabindex="-1" :aria-label="w.choose" @change="proveTheirs" />
      </div>
    </template>

    <template v-if="!empty" #foot>
      <v-btn color="primary" size="large" block :prepend-icon="mdiDownload" :href="address" download>
        {{ w.write(chosen?.name ?? '') }}
      </v-btn>
      <p class="small quiet note">{{ w.trueSize }}</p>
    </template>
  </PanelFrame>
</template>

<style scoped>
.formats {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
  padding: 14px 18px 6px;
}
label {
  display: grid;
  padding: 8px 12px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  cursor: pointer;
}
label.on {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
}
label:focus-within {
  outline: 2px solid var(--pick);
  outline-offset: 2px;
}
.about {
  padding: 0 18px 12px;
}
.about a {
  color: inherit;
}
.pages a {
  margin-left: 6px;
}
.pages .first {
  margin-left: 0;
}
.warn {
  margin: 0 18px 12px;
  padding: 8px 12px;
  border-radius: 8px;
  background: var(--flag-ground);
  color: var(--flag);
}
.warn button {
  padding: 0;
  border: 0;
  background: none;
  text-decoration: underline;
  cursor: pointer;
}
.warn a,
.warn button {
  color: inherit;
  font-weight: 650;
}
.unproven {
  margin: 0 18px 12px;
  color: var(--ink-2);
}
.other {
  padding: 4px 10px 14px;
}
.note {
  text-align: center;
}
</style>
