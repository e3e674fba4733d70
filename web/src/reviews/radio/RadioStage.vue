<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { claimed } from '../../shared/figures'
import type { Schemas } from '../../shared/server'
import { useReview, type Content } from '../review'
import ClaimPicture from './ClaimPicture.vue'

const book = useReview()
const review = computed(() => book.review!)
const kept = computed(() => book.typed!)
const subject = computed(() => kept.value.now.subject)
type Claim = Schemas['RecordClaim']
type Volts = 'supply_min_v' | 'supply_v' | 'supply_max_v'

// The lines as they are typed, with an empty one below; those kept are the ones with text.
const today = new Date().toISOString().slice(0, 10)
const blank = (): Claim => ({ text: '', source: '', read_on: today })
const claims = ref<Claim[]>([])
const typedOut = () => claims.value.filter((c) => c.text.trim() !== '').map((c) => ({ ...c }))
watch(
  () => kept.value.now.claims,
  (all) => {
    if (JSON.stringify(all) !== JSON.stringify(typedOut())) claims.value = all.map((c) => ({ ...c }))
    if (claims.value.at(-1)?.text !== '') claims.value.push(blank())
  },
  { immediate: true, deep: true },
)
const grid = ref<HTMLElement>()
const line = (i: number) => grid.value?.querySelector<HTMLInputElement>(`[name=claim-${i}]`)
onMounted(() => { if (kept.value.now.claims.length === 0) line(0)?.focus() })

function change(by: (c: Content) => void) {
  const next = { ...kept.value.now, subject: { ...subject.value } } as Content
  by(next)
  kept.value.change(next)
}
function say(field: string, value: string) {
  change((c) => ((c.subject as unknown as Record<string, unknown>)[field] = value))
}
function type(i: number, field: 'text' | 'source' | 'read_on', value: string) {
  const c = claims.value[i]!
  // A line that begins is of where the one above it was read.
  if (field === 'text' && !c.text && value && !c.source && i > 0) Object.assign(c, { source: claims.value[i - 1]!.source, read_on: claims.value[i - 1]!.read_on })
  c[field] = value
  if (claims.value.at(-1)!.text) claims.value.push(blank())
  change((all) => (all.claims = typedOut()))
}
/** A source holds for the lines below it that have none. */
function carry(from: number) {
  const { source } = claims.value[from]!
  for (const c of claims.value.slice(from + 1)) {
    if (c.source || !c.text) break
    c.source = source
  }
  change((all) => (all.claims = typedOut()))
}
function next(i: number) {
  void nextTick(() => line(i + 1)?.focus())
}

const number = (text: string) => Number(text.trim().replace(',', '.'))
const readable = (text: string) => text.trim() === '' || number(text) > 0
function volts(field: Volts, text: string) {
  kept.value.hold(field, text, readable(text))
  if (!readable(text)) return
  change((c) => {
    if (text.trim() === '') delete c.subject[field]
    else c.subject[field] = number(text)
  })
}
function leaveVolts(field: Volts) {
  const text = kept.value.texts[field]
  if (text !== undefined && readable(text)) kept.value.hold(field, null)
}

/** What the server read each line as, matched by its text. */
function readAs(text: string): string {
  const line = review.value.claims.find((c) => c.text === text)
  if (!line) return ''
  if (line.error) return line.error
  return line.said || line.powers.map((p) => `${p.level} ${claimed({ claimed_w: p.w, pep: p.pep })}${p.mode === 'FM' ? '' : ` ${p.mode}`}`).join(', ')
}
const wrong = (text: string) => Boolean(review.value.claims.find((c) => c.text === text)?.error)

const ways = [
  { value: 'bought', label: 'bought' },
  { value: 'lent', label: 'lent' },
  { value: 'given-by-maker', label: 'given by the maker' },
  { value: 'given-by-seller', label: 'given by a seller' },
] as const
const interests = [
  { value: 'none', label: 'I neither sell it nor earn on links' },
  { value: 'sells', label: 'I sell it' },
  { value: 'earns-on-links', label: 'I earn on links to it' },
] as const
</script>

<template>
  <div class="stage">
    <section>
      <h2>What is claimed</h2>
      <p class="soft">A band and its powers from the highest level down: <span class="mono">2m 25/10/5</span>, <span class="mono">10m AM 12 pep 35 SSB</span></p>
      <!-- In the order of the page Tab goes from claim to claim, then from source to source. -->
      <div ref="grid" class="claims">
        <div v-for="(c, i) in claims" :key="`text ${i}`" class="claim" :style="{ gridRow: i + 1, gridColumn: 1 }">
          <ElInput :model-value="c.text" class="mono" :placeholder="i === 0 ? '2m 5/2/0.5' : 'another band'" :aria-label="`Claim ${i + 1}`" :name="`claim-${i}`" @update:model-value="(v: string) => type(i, 'text', v)" @keydown.enter.prevent="next(i)" />
          <p class="echo" :class="wrong(c.text) ? 'danger' : 'soft'" aria-live="polite">{{ readAs(c.text) }}</p>
        </div>
        <div v-for="(c, i) in claims" :key="`source ${i}`" :style="{ gridRow: i + 1, gridColumn: 2 }">
          <ElInput :model-value="c.source" placeholder="box, or manual page" :aria-label="`Source of claim ${i + 1}`" @update:model-value="(v: string) => type(i, 'source', v)" @change="carry(i)" />
          <p v-if="c.text.trim() && !c.source?.trim()" class="echo soft">an edition needs to say where</p>
        </div>
        <ElInput v-for="(c, i) in claims" :key="`on ${i}`" :model-value="c.read_on" type="date" :aria-label="`Claim ${i + 1} read on`" :style="{ gridRow: i + 1, gridColumn: 3 }" @update:model-value="(v: string) => type(i, 'read_on', v)" />
      </div>
      <ClaimPicture :cells="book.cells" />
    </section>
    <section class="unit">
      <h2>The unit</h2>
      <div class="pair">
        <label>Maker<ElInput :model-value="subject.maker" @update:model-value="(v: string) => say('maker', v)" name="unit-maker" /></label>
        <label>Model<ElInput :model-value="subject.model" @update:model-value="(v: string) => say('model', v)" /></label>
        <label>Serial<ElInput :model-value="subject.serial" @update:model-value="(v: string) => say('serial', v)" name="serial" /></label>
        <label>Date code<ElInput :model-value="subject.date_code" @update:model-value="(v: string) => say('date_code', v)" name="date-code" /></label>
        <label>Firmware<ElInput :model-value="subject.firmware" @update:model-value="(v: string) => say('firmware', v)" /></label>
        <label>Changes made to it<ElInput :model-value="subject.changes" @update:model-value="(v: string) => say('changes', v)" placeholder="none" /></label>
      </div>
      <h3>Supply, V</h3>
      <div class="trio">
        <label>Lowest<ElInput :model-value="kept.texts['supply_min_v'] ?? subject.supply_min_v?.toString() ?? ''" name="supply-min-v" inputmode="decimal" @update:model-value="(v: string) => volts('supply_min_v', v)" @blur="leaveVolts('supply_min_v')" /><em v-if="kept.texts['supply_min_v'] && !readable(kept.texts['supply_min_v'])" class="danger" role="alert">no voltage: it stays here until it is</em></label>
        <label>Nominal<ElInput :model-value="kept.texts['supply_v'] ?? subject.supply_v?.toString() ?? ''" name="supply-v" inputmode="decimal" @update:model-value="(v: string) => volts('supply_v', v)" @blur="leaveVolts('supply_v')" /><em v-if="kept.texts['supply_v'] && !readable(kept.texts['supply_v'])" class="danger" role="alert">no voltage: it stays here until it is</em></label>
        <label>Highest<ElInput :model-value="kept.texts['supply_max_v'] ?? subject.supply_max_v?.toString() ?? ''" name="supply-max-v" inputmode="decimal" @update:model-value="(v: string) => volts('supply_max_v', v)" @blur="leaveVolts('supply_max_v')" /><em v-if="kept.texts['supply_max_v'] && !readable(kept.texts['supply_max_v'])" class="danger" role="alert">no voltage: it stays here until it is</em></label>
      </div>
      <p class="soft small">A reading below the lowest cannot be held against the claim.</p>
      <fieldset>
        <legend>How it was come by</legend>
        <label v-for="w in ways" :key="w.value" class="choice"><input :checked="subject.come_by === w.value" type="radio" name="come-by" :value="w.value" @change="say('come_by', w.value)" />{{ w.label }}</label>
        <ElInput :model-value="subject.come_by_note" @update:model-value="(v: string) => say('come_by_note', v)" placeholder="from whom, on what terms" aria-label="From whom, on what terms" />
      </fieldset>
      <fieldset>
        <legend>Your interest in it</legend>
        <label v-for="w in interests" :key="w.value" class="choice"><input :checked="subject.interest === w.value" type="radio" name="interest" :value="w.value" @change="say('interest', w.value)" />{{ w.label }}</label>
      </fieldset>
    </section>
  </div>
</template>

<style scoped>
.stage {
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: 44px;
}
.claims {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr) 158px;
  gap: 14px;
  align-items: start;
}
.claim :deep(.mono input) {
  font: 400 20px 'IBM Plex Mono', monospace;
}
.trio em {
  font-style: normal;
  font-size: 13px;
}
.echo {
  min-height: 22px;
  font-size: 14px;
  margin: 2px 0 4px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 22px;
  margin: 8px 0 14px;
}
.trio {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 22px;
}
label {
  font-size: 14px;
  color: var(--soft);
}
fieldset {
  border: 0;
  border-top: 1px solid var(--hair);
  margin: 14px 0 0;
  padding: 10px 0 0;
}
legend {
  font-weight: 600;
  font-size: 15px;
  padding: 0 8px 0 0;
}
.choice {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  margin: 2px 18px 6px 0;
  font-size: 16px;
  color: var(--ink);
}
.choice input {
  accent-color: var(--ink);
  width: 17px;
  height: 17px;
}
.small {
  font-size: 14px;
}
</style>
