<script setup lang="ts">
// Only the figures, large, for a camera: it follows the key-up screen of another window as
// one types.
import { useBroadcastChannel } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useRoute } from 'vue-router'

interface Figures { review: string; box: string; mhz: string; claimed: string; power: string; live: boolean; range: string; percent: string }
const route = useRoute()
const { data, post, channel } = useBroadcastChannel<Figures, 'ask'>({ name: 'talloak figures' })
watch(channel, (open) => { if (open) post('ask') }, { immediate: true })
const shown = computed(() => (data.value?.review === route.params.id ? data.value : null))
</script>

<template>
  <div class="large">
    <template v-if="shown">
      <p class="what"><b>{{ shown.mhz }}</b> MHz <span>{{ shown.box }}</span> <span class="soft">{{ shown.claimed }}</span></p>
      <p class="power" :class="{ idle: !shown.live }" data-large>{{ shown.power }}</p>
      <p class="range">{{ shown.range }}<template v-if="shown.percent">, {{ shown.percent }}</template></p>
    </template>
    <p v-else class="soft wait">Waiting for the key-up screen: open it in another window of this browser, and what is typed there is shown here.</p>
  </div>
</template>

<style scoped>
.large {
  min-height: 100vh;
  display: grid;
  align-content: center;
  justify-items: center;
  background: var(--sheet);
  text-align: center;
  padding: 20px;
}
p {
  margin: 0;
}
.what {
  font-size: 5.2vw;
}
.what span {
  margin-left: 0.5em;
}
.power {
  font-size: 19vw;
  font-weight: 600;
  letter-spacing: -0.03em;
  line-height: 1.05;
  white-space: nowrap;
}
.idle {
  color: var(--soft);
}
.range {
  font-size: 3.6vw;
}
.wait {
  font-size: 22px;
  max-width: 30em;
}
</style>
