<script setup lang="ts">
// A figure of somebody else, with its source and date: it stands beside ours.
import { ref } from 'vue'
import { db, watts } from '../shared/figures'
import { remember } from '../shared/remember'
import { decimal } from '../shared/numbers'
import { send, type Schemas } from '../shared/server'

const props = defineProps<{ row: Schemas['CompareRow'] }>()
const emit = defineEmits<{ kept: [] }>()
const open = ref(false)
const trouble = ref('')
const typed = remember(`outside ${props.row.id}`, { box: '', watts: '', room: '', source: '', said_on: new Date().toISOString().slice(0, 10) })

async function keep() {
  trouble.value = ''
  const watts = typed.value.watts.trim() ? decimal(typed.value.watts) : undefined
  const room_db = typed.value.room.trim() ? decimal(typed.value.room) : undefined
  if (Number.isNaN(watts) || Number.isNaN(room_db)) {
    trouble.value = 'Type figures, such as 4.6 W or -9 dB.'
    return
  }
  const body = { box: typed.value.box || props.row.boxes[0]?.name, watts, room_db, source: typed.value.source, said_on: typed.value.said_on }
  const got = await send({ what: 'outside', review: props.row.id, label: 'an outside figure', path: `/api/v1/reviews/${props.row.id}/outside`, json: (id) => ({ id, ...body }) })
  if (!got.ok) trouble.value = got.refusal.words
  else {
    open.value = false
    Object.assign(typed.value, { watts: '', room: '', source: '' })
    emit('kept')
  }
}
async function takeOut(f: Schemas['RecordOutsideFigure']) {
  trouble.value = ''
  const body = { replaces: f.id, box: f.box, source: f.source, said_on: f.said_on }
  const got = await send({ what: 'outside', review: props.row.id, label: 'an outside figure taken out', path: `/api/v1/reviews/${props.row.id}/outside`, json: (id) => ({ id, ...body }) })
  if (!got.ok) trouble.value = got.refusal.words
  else emit('kept')
}
</script>

<template>
  <small v-for="f in row.outside" :key="f.id" class="soft">□ {{ f.box }}: {{ [f.watts == null ? '' : watts(f.watts), f.room_db == null ? '' : `${db(f.room_db)} to the limit`].filter(Boolean).join(', ') }}, {{ f.source }}, {{ f.said_on }} <button type="button" class="option" :name="`take-out-${f.id}`" @click="takeOut(f)">take out</button></small>
  <button v-if="!open && row.boxes.length" type="button" class="option" :name="`outside-${row.id}`" @click="open = true">an outside figure</button>
  <form v-else-if="open" @submit.prevent="keep">
    <label>Of <select v-model="typed.box" name="outside-box"><option v-for="b in row.boxes" :key="b.name" :value="b.name">{{ b.name }}</option></select></label>
    <label>Power, W <ElInput v-model="typed.watts" name="outside-watts" inputmode="decimal" /></label>
    <label>Room under the limit, dB <ElInput v-model="typed.room" name="outside-room" inputmode="decimal" /></label>
    <label>Where it was read <ElInput v-model="typed.source" name="outside-source" /></label>
    <label>Of the day <ElInput v-model="typed.said_on" name="outside-on" type="date" /></label>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <ElButton native-type="submit" name="outside-keep">Keep it</ElButton>
    <button type="button" class="option" @click="open = false">not now</button>
  </form>
</template>

<style scoped>
small {
  display: block;
}
button,
form {
  font-size: 13px;
}
form label {
  display: block;
}
</style>
