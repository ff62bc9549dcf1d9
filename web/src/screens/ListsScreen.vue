<script setup lang="ts">
import { mdiArrowLeft, mdiPlus, mdiRedo, mdiUndo } from '@mdi/js'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import EntryForm from '@/bench/lists/EntryForm.vue'
import HelpButton from '@/bench/HelpButton.vue'
import IconButton from '@/bench/IconButton.vue'
import LanternMark from '@/bench/LanternMark.vue'
import ShadeButton from '@/bench/ShadeButton.vue'
import { useKeys } from '@/composables/keys'
import { sentenceOf } from '@/stores/intake'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useLists, type Kind } from '@/stores/lists'
import { words } from '@/words'

/** The lists of materials, machines and purposes: one list, and what is picked of it. */
const props = defineProps<{ kind?: Kind }>()
const w = words.lists
const lists = useLists()
const library = useLibrary()
const jobs = useJob()
const route = useRoute()
const router = useRouter()
const KINDS = Object.keys(w.kinds) as Kind[]
const kind = computed<Kind>(() => props.kind || 'materials')
const rows = computed(() => lists.rows(kind.value))
const picked = ref('')
const row = computed(() => rows.value.find((one) => one.id === picked.value) ?? rows.value[0])
const missing = computed(() => lists.missing(kind.value))
const failed = ref('')
const ready = computed(() => !!library.library.shipped.materials.length)
/** The job that the lists were opened from. */
const job = computed(() => (typeof route.query.job === 'string' ? route.query.job : ''))
const back = computed(() => (job.value ? { name: 'bench', params: { job: job.value, station: 'check' } } : { name: 'jobs' }))
const backTo = computed(() => (job.value ? w.backTo(jobs.job?.id === job.value ? jobs.job.name : words.jobs.theJob) : w.back))

async function load() {
  failed.value = ''
  await library.load(true).catch((error) => (failed.value = sentenceOf(error)))
}
onMounted(() => {
  document.title = w.title
  if (typeof route.query.entry === 'string') picked.value = route.query.entry
  void load()
})
watch(kind, () => (picked.value = ''))

const about = (id: string) => {
  const one = rows.value.find((each) => each.id === id)!
  if (!lists.asShipped(kind.value, id)) return w.own
  return lists.isChanged(kind.value, one) ? w.changed : ''
}
async function add() {
  const made = await lists.add(kind.value, row.value)
  if (!made) return
  picked.value = made
  await nextTick()
  document.querySelector<HTMLInputElement>('.entry input')?.focus()
}
const asItShips = () => lists.set(kind.value, row.value.id, lists.asShipped(kind.value, row.value.id)!, w.did.asItShips(row.value.name))
function walk(by: -1 | 1) {
  const at = rows.value.findIndex((one) => one.id === row.value?.id)
  picked.value = rows.value[Math.min(Math.max(at + by, 0), rows.value.length - 1)]?.id ?? ''
  void nextTick(() => document.querySelector<HTMLElement>('.rows [aria-current=true]')?.focus())
}
useKeys({
  'ctrl+z': () => void lists.undo(),
  'ctrl+shift+z': () => void lists.redo(),
  arrowdown: () => walk(1),
  arrowup: () => walk(-1),
  escape: () => void router.push(back.value),
})
</script>

<template>
  <div class="page">
    <header>
      <LanternMark />
      <router-link :to="back" class="back"><v-icon :icon="mdiArrowLeft" size="18" /> {{ backTo }}</router-link>
      <h1>{{ w.heading }}</h1>
      <span class="spring" />
      <span class="quiet small" role="status">{{ lists.busy ? w.keeping : '' }}</span>
      <IconButton
        :icon="mdiUndo"
        :name="w.undo"
        :hint="lists.lastWhat"
        keys="Ctrl z"
        :disabled="!lists.past.length || lists.busy"
        @press="lists.undo()"
      />
      <IconButton
        :icon="mdiRedo"
        :name="w.redo"
        :hint="lists.nextWhat"
        keys="Ctrl Shift z"
        :disabled="!lists.ahead.length || lists.busy"
        @press="lists.redo()"
      />
      <ShadeButton />
      <HelpButton />
    </header>
    <main>
      <div v-if="failed || lists.problem" class="problem" role="alert">
        <span>{{ failed || lists.problem }}</span>
        <v-btn v-if="failed" size="small" variant="text" @click="load">{{ words.jobList.again }}</v-btn>
        <v-btn v-else size="small" variant="text" @click="lists.problem = ''">{{ words.common.close }}</v-btn>
      </div>
      <nav :aria-label="w.heading">
        <router-link
          v-for="one in KINDS"
          :key="one"
          :to="{ name: 'lists', params: { kind: one }, query: route.query.job ? { job } : {} }"
          replace
          :class="{ now: one === kind }"
          :aria-current="one === kind ? 'page' : undefined"
        >
          {{ w.kinds[one] }}
        </router-link>
      </nav>
      <p class="quiet about">{{ w.about[kind] }} {{ w.kept }}</p>
      <v-progress-linear v-if="!ready && !failed" :aria-label="w.loading" indeterminate color="primary" height="3" />
      <div v-else-if="ready" class="both">
        <div class="side">
          <ul v-if="rows.length" class="rows" :aria-label="w.kinds[kind]">
            <li v-for="one in rows" :key="one.id">
              <button :aria-current="one.id === row?.id" @click="picked = one.id">
                <i v-if="one.color" class="swatch" :style="{ background: String(one.color) }" />
                <span class="called">{{ one.name }}</span>
                <span class="small quiet">{{ about(one.id) }}</span>
              </button>
            </li>
          </ul>
          <p v-else class="quiet none">{{ w.none[kind] }}</p>
          <v-btn size="small" variant="outlined" :prepend-icon="mdiPlus" :disabled="lists.busy" @click="add">{{
            w.add(w.one[kind])
          }}</v-btn>
          <div v-if="missing.length" class="missing small">
            <p class="quiet">{{ w.missing(missing.map((one) => one.name).join(', ')) }}</p>
            <button class="plain" :disabled="lists.busy" @click="lists.putBack(kind)">{{ w.putBack }}</button>
          </div>
        </div>
        <section v-if="row" :aria-label="row.name">
          <div class="head">
            <h2>{{ row.name }}</h2>
            <v-btn v-if="lists.isChanged(kind, row)" size="small" variant="text" :disabled="lists.busy" @click="asItShips">{{
              w.asItShips
            }}</v-btn>
            <v-btn size="small" variant="text" :disabled="lists.busy" @click="add">{{ w.copy }}</v-btn>
            <v-btn size="small" variant="text" :disabled="lists.busy" @click="lists.takeOff(kind, row)">{{ w.off }}</v-btn>
          </div>
          <EntryForm :key="row.id" :kind="kind" :row="row" />
        </section>
      </div>
    </main>
  </div>
</template>

<style scoped>
.back {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  color: var(--ink-2);
  max-width: 16em;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
nav {
  display: flex;
  gap: 4px;
  border-bottom: 1px solid var(--rule);
}
nav a {
  padding: 8px 14px;
  color: var(--ink-2);
  text-decoration: none;
  border-bottom: 3px solid transparent;
}
nav a.now {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--ink);
}
.about {
  max-width: 80ch;
}
.both {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 28px;
  align-items: start;
}
.side {
  display: grid;
  gap: 12px;
  justify-items: start;
}
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
  display: grid;
  gap: 2px;
}
.rows button {
  width: 100%;
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 38px;
  padding: 6px 10px;
  border: 1px solid transparent;
  border-radius: 8px;
  background: none;
  text-align: left;
  cursor: pointer;
}
.rows button:hover {
  background: var(--raised);
}
.rows button[aria-current='true'] {
  background: var(--raised);
  border-color: var(--ink);
}
.swatch {
  flex: none;
  width: 18px;
  height: 18px;
  border-radius: 5px;
  border: 1px solid var(--edge);
}
.called {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.missing {
  display: grid;
  gap: 4px;
}
.plain {
  justify-self: start;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  margin-bottom: 14px;
}
h2 {
  flex: 1;
  min-width: 8em;
  overflow-wrap: anywhere;
}
@media (max-width: 760px) {
  .both {
    grid-template-columns: 1fr;
  }
}
</style>
