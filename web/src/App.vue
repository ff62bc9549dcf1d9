<script setup lang="ts">
import { useShade } from '@/composables/shade'

useShade()
</script>

<template>
  <v-app>
    <router-view />
  </v-app>
</template>
