<script setup lang="ts">
// Gone through once per wiring. A path in danger cannot be keyed into.
defineProps<{ safe: boolean | null; ready: boolean }>()
defineEmits<{ confirm: [] }>()
const checks = [
  'battery full, or the supply able to give the current',
  'the radio on the level and frequency shown here',
  'connectors tight, the load attached',
  'a frequency you may use; into a closed load only',
]
</script>

<template>
  <div v-if="!ready" class="preflight">
    <h3>Before keying</h3>
    <ul><li v-for="c in checks" :key="c">{{ c }}</li></ul>
    <p class="soft">Hot loads and bare connectors burn. The radio’s and the instruments’ own ratings, local law and your licence come first.</p>
    <p v-if="safe === null" class="soft">The path is being looked at.</p>
    <p v-else-if="!safe" class="danger">In danger as wired: this cannot start until the path is changed.</p>
    <ElButton type="primary" :disabled="!safe" name="preflight" @click="$emit('confirm')">All of this is so <kbd>c</kbd></ElButton>
  </div>
  <p v-else class="soft">Checked for this wiring. Transmit briefly; keep off calling and emergency channels with an antenna on.</p>
</template>

<style scoped>
.preflight {
  border-top: 1px solid var(--hair);
  padding-top: 8px;
}
ul {
  padding-left: 18px;
  margin: 6px 0;
  columns: 2 330px;
  column-gap: 34px;
}
p {
  font-size: 14px;
}
</style>
