<script setup lang="ts">
import { mdiSendOutline } from '@mdi/js'
import { computed, onMounted } from 'vue'

import { timeOf, when } from '@/composables/times'
import type { Sending } from '@/api/types'
import { useSendings } from '@/stores/sendings'
import { useWorking } from '@/stores/working'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'

/** Sending to the machine, and what it has done of that. */
const sendings = useSendings()
const working = useWorking()
const w = words.sending
const machine = computed(() => working.shown?.program.machine)
const now = computed(() => sendings.newest)
const open = computed(() => !!now.value && !['done', 'cancelled'].includes(now.value.state))
const earlier = computed(() => sendings.rows.slice(open.value ? 1 : 0))
const share = (row: Sending) => (row.strokes ? row.done / row.strokes : row.state === 'done' ? 1 : 0)
onMounted(() => void sendings.load().catch(() => {}))
</script>

<template>
  <section v-if="machine?.sends || sendings.rows.length" class="sending">
    <template v-if="now && open">
      <h3 class="small">{{ w.title }}</h3>
      <p role="status" :class="{ wrong: now.state === 'stopped' }">
        <b>{{ sendings.sentence(now) }}</b>
      </p>
      <p v-if="now.problem" class="small wrong" role="alert">{{ now.problem }}</p>
      <v-progress-linear :model-value="share(now) * 100" :aria-label="sendings.sentence(now)" color="primary" height="5" />
      <p class="small quiet">
        {{ now.name }}: {{ w.strokes(now.done, now.strokes)
        }}<template v-if="now.state === 'running'">, {{ w.left(timeOf(now.seconds * (1 - share(now)))) }}</template>
      </p>
      <div class="acts">
        <v-btn
          v-if="['running', 'waiting'].includes(now.state)"
          size="small"
          variant="outlined"
          :disabled="sendings.busy || !!now.wish"
          @click="sendings.tell(now, 'pause')"
          >{{ w.pause }}</v-btn
        >
        <template v-else-if="now.forgotten">
          <v-btn size="small" variant="outlined" :disabled="sendings.busy" @click="sendings.tell(now, 'go-on-behind')">{{
            w.goOnWith(now.done + 1)
          }}</v-btn>
          <v-btn size="small" variant="outlined" :disabled="sendings.busy" @click="sendings.tell(now, 'begin-anew')">{{ w.anew }}</v-btn>
        </template>
        <v-btn v-else size="small" variant="outlined" :disabled="sendings.busy" @click="sendings.tell(now, 'go-on')">{{ w.goOn }}</v-btn>
        <v-btn size="small" variant="text" :disabled="sendings.busy || now.wish === 'cancel'" @click="sendings.tell(now, 'cancel')">{{
          w.cancel
        }}</v-btn>
      </div>
    </template>
    <template v-else-if="machine?.sends">
      <v-btn variant="outlined" block :prepend-icon="mdiSendOutline" :disabled="sendings.busy" @click="sendings.send()">{{
        w.send(machine.name)
      }}</v-btn>
      <div v-if="sendings.before" class="again" role="alert">
        <p class="small">{{ sendings.before }}</p>
        <v-btn size="small" variant="text" :disabled="sendings.busy" @click="sendings.send(true)">{{ w.again }}</v-btn>
      </div>
    </template>
    <p v-if="sendings.problem" class="small wrong" role="alert">{{ sendings.problem }}</p>
    <FoldPart v-if="earlier.length" :name="w.earlier" :set="false" :note="String(earlier.length)">
      <ul class="small">
        <li v-for="row in earlier" :key="row.id">
          {{ row.name }}: {{ w.when(sendings.sentence(row), when(row.created)) }}
          <span class="quiet">{{ row.strokes ? w.strokes(row.done, row.strokes) : w.whole }}, {{ row.sha256.slice(0, 8) }}</span>
        </li>
      </ul>
    </FoldPart>
  </section>
</template>

<style scoped>
.sending {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 0 18px 12px;
}
h3,
p {
  margin: 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.wrong {
  color: var(--flag);
}
ul {
  margin: 0;
  padding: 0 0 0 16px;
  display: grid;
  gap: 4px;
}
</style>
