<script setup lang="ts">
// What of a review, or of the bench, is on its way or was not taken: to be seen, mended,
// sent again or discarded by the person.
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { mend } from './lines'
import { letGo, outbox, pictures, tryAgain, type Waiting } from './server'

const props = defineProps<{ review: string }>()
const router = useRouter()
const mine = computed(() => outbox.facts.filter((f) => f.review === props.review && f.what !== 'review'))
const waiting = computed(() => mine.value.filter((f) => f.state === 'waiting'))
const aside = computed(() => mine.value.filter((f) => f.state === 'aside'))
const said = ref('')

function mendIt(f: Waiting) {
  if (!mend(f.review, f.line!)) {
    said.value = `Something else stands in the line of ${f.line!.box}: enter it or empty it first.`
    return
  }
  said.value = ''
  const photo = outbox.facts.find((p) => p.about === f.id && p.what === 'photo')
  if (photo) void pictures.put(`${f.review} ${f.line!.box}`, { picture: null, work: null, evidence: photo.file })
  void letGo(f.id)
  void router.push(`/reviews/${f.review}/${f.line!.kind}`)
}
</script>

<template>
  <p v-for="f in waiting" :key="f.id" class="soft trouble" role="status">On the way: {{ f.label }}. {{ f.why }}</p>
  <p v-for="f in aside" :key="f.id" class="danger trouble" role="alert" data-aside>
    {{ f.refused ? 'Not taken' : 'The server fails at' }}: <span class="mono">{{ f.label }}</span>. {{ f.why }}
    <ElButton v-if="f.line" size="small" name="mend" @click="mendIt(f)">Mend it</ElButton>
    <ElButton v-if="!f.refused" size="small" name="try-again" @click="tryAgain(f.id)">Send it again</ElButton>
    <ElButton size="small" name="discard" @click="letGo(f.id)">Discard it</ElButton>
  </p>
  <p v-if="said" class="danger" role="alert">{{ said }}</p>
</template>

<style scoped>
.trouble {
  border-left: 3px solid var(--rust);
  padding: 4px 12px;
}
</style>
