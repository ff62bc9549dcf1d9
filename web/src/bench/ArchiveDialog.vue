<script setup lang="ts">
import { computed, reactive, watch } from 'vue'

import { useIntake } from '@/stores/intake'
import { words } from '@/words'

import ArchiveCard from './ArchiveCard.vue'

const w = words.archive
/** What an archive holds, as pictures to choose from. */
const intake = useIntake()
const chosen = reactive(new Set<string>())
const files = computed(() => intake.archive?.files.filter((f) => f.format) ?? [])
const others = computed(() => intake.archive?.files.filter((f) => !f.format) ?? [])

/** Where there is nothing to choose between, it is chosen. */
watch(
  () => intake.archive,
  () => {
    chosen.clear()
    if (files.value.length === 1) chosen.add(files.value[0].id)
  },
)
/** Folders that all files share say nothing. */
const shared = computed(() => {
  const all = files.value.map((f) => f.folder.split('/'))
  let depth = 0
  while (all.length && all.every((parts) => parts.length > depth && parts[depth] === all[0][depth])) depth++
  return depth
})
const folderOf = (folder: string) => folder.split('/').slice(shared.value).join(' / ')

function mark(id: string, on: boolean) {
  if (on) chosen.add(id)
  else chosen.delete(id)
}
function bring() {
  intake.choose(files.value.filter((f) => chosen.has(f.id)).map((f) => ({ name: f.name, staged: f.id })))
}
</script>

<template>
  <v-dialog
    :model-value="!!intake.archive"
    max-width="940"
    scrollable
    :aria-label="intake.archive ? w.title(intake.archive.name) : undefined"
    @update:model-value="intake.choose([])"
  >
    <section v-if="intake.archive" class="archive" :aria-label="w.title(intake.archive.name)">
      <header>
        <h2>{{ w.question }}</h2>
        <p class="quiet">
          {{ w.holds(intake.archive.name, files.length) }}
        </p>
        <p class="links">
          <button @click="files.forEach((f) => chosen.add(f.id))">{{ w.all }}</button>
          <button @click="chosen.clear()">{{ w.none }}</button>
        </p>
      </header>
      <div class="cards">
        <ArchiveCard
          v-for="file in files"
          :key="file.id"
          :file="file"
          :folder="folderOf(file.folder)"
          :model-value="chosen.has(file.id)"
          @update:model-value="mark(file.id, $event)"
        />
        <p v-if="others.length" class="small quiet others">
          {{ w.others(others.map((f) => f.name).join(', ')) }}
        </p>
      </div>
      <footer>
        <v-btn variant="text" @click="intake.choose([])">{{ words.common.cancel }}</v-btn>
        <v-btn color="primary" :disabled="!chosen.size" @click="bring">
          {{ w.bring(chosen.size) }}
        </v-btn>
      </footer>
    </section>
  </v-dialog>
</template>

<style scoped>
.archive {
  display: grid;
  grid-template-rows: auto 1fr auto;
  max-height: 86vh;
  background: var(--panel);
  color: var(--ink);
  border-radius: 10px;
  overflow: hidden;
}
header {
  display: grid;
  gap: 6px;
  padding: 22px 24px 14px;
  border-bottom: 1px solid var(--rule);
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(196px, 1fr));
  grid-auto-rows: max-content;
  gap: 16px;
  padding: 18px 24px;
  overflow: auto;
  min-height: 0;
}
.others {
  grid-column: 1 / -1;
  overflow-wrap: anywhere;
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  padding: 12px 24px;
  border-top: 1px solid var(--rule);
}
</style>
