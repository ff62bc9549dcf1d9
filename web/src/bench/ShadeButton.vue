<script setup lang="ts">
import { mdiWeatherNight, mdiWhiteBalanceSunny } from '@mdi/js'

import { useShade } from '@/composables/shade'
import { words } from '@/words'

import IconButton from './IconButton.vue'

const { shade, flip } = useShade()
</script>

<template>
  <IconButton
    :icon="shade === 'light' ? mdiWeatherNight : mdiWhiteBalanceSunny"
    :name="shade === 'light' ? words.shade.dark : words.shade.light"
    @press="flip"
  />
</template>
