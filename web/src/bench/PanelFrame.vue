<script setup lang="ts">
/** A station's panel: its name, what it says, and at the foot the one thing most will do next. */
defineProps<{ title: string }>()
</script>

<template>
  <section class="panel" :aria-label="title">
    <header>
      <h2>{{ title }}</h2>
      <slot name="head" />
    </header>
    <div class="body"><slot /></div>
    <footer v-if="$slots.foot"><slot name="foot" /></footer>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-rows: auto 1fr auto;
  min-height: 0;
  height: 100%;
  background: var(--panel);
  border-left: 1px solid var(--rule);
}
header {
  padding: 20px 18px 12px;
  border-bottom: 1px solid var(--rule);
  display: grid;
  gap: 4px;
}
.body {
  overflow: auto;
  min-height: 0;
}
footer {
  padding: 12px 18px 14px;
  border-top: 1px solid var(--rule);
  display: grid;
  gap: 8px;
}
</style>
