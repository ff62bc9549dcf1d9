<script setup lang="ts">
import { useIntake } from '@/stores/intake'
import { words } from '@/words'

const w = words.oneOrEach
/** Several files for new jobs: are they one piece of work? */
const intake = useIntake()
</script>

<template>
  <v-dialog :model-value="!!intake.many" max-width="480" :aria-label="w.title" @update:model-value="intake.choose(null)">
    <section v-if="intake.many" class="many" :aria-label="w.title">
      <h2>{{ w.question(intake.many.length) }}</h2>
      <ul class="small quiet">
        <li v-for="(each, i) in intake.many.slice(0, 8)" :key="i">{{ each.name }}</li>
        <li v-if="intake.many.length > 8">{{ w.more(intake.many.length - 8) }}</li>
      </ul>
      <div class="ways">
        <v-btn color="primary" @click="intake.choose('one')">{{ w.one }}</v-btn>
        <v-btn variant="outlined" @click="intake.choose('each')">{{ w.each }}</v-btn>
        <v-btn variant="text" @click="intake.choose(null)">{{ words.common.cancel }}</v-btn>
      </div>
    </section>
  </v-dialog>
</template>

<style scoped>
.many {
  display: grid;
  gap: 14px;
  padding: 24px;
  background: var(--panel);
  color: var(--ink);
  border-radius: 10px;
}
ul {
  margin: 0;
  padding-left: 18px;
  overflow-wrap: anywhere;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
