<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'

import SetupNotice from '@/bench/SetupNotice.vue'
import { announced } from '@/composables/announce'
import { useShade } from '@/composables/shade'
import { useSetup } from '@/stores/setup'

useShade()
const route = useRoute()
const setup = useSetup()
/** The bench computes with all that it shows: until it can, it says how far that is. */
const waits = computed(() => !setup.state.ready && route.name === 'bench')
void setup.follow()
</script>

<template>
  <v-app>
    <router-view v-if="!waits" :key="setup.turn" />
    <SetupNotice :alone="waits" />
    <div class="unseen" role="status" aria-live="polite" data-announced>{{ announced }}</div>
  </v-app>
</template>
