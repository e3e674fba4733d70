<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Schemas } from '../../shared/api/client'
import { claimed } from '../../shared/figures'
import TypedLine from '../../shared/TypedLine.vue'
import { useReview } from '../review'
import ClaimPicture from './ClaimPicture.vue'

const book = useReview()
const review = computed(() => book.review!)

type Claim = Schemas['StoreClaim']
const typed = reactive({ claims: [] as Claim[], subject: { ...review.value.subject } })
typed.claims = review.value.claims.map((c) => ({ text: c.text, source: c.source, read_on: c.read_on }))
const today = new Date().toISOString().slice(0, 10)
const blank = (): Claim => ({ text: '', source: '', read_on: today })
typed.claims.push(blank())

watch(
  typed,
  () => {
    const last = typed.claims.at(-1)
    if (last?.text) typed.claims.push({ ...blank(), source: last.source })
    const claims = typed.claims.filter((c) => c.text.trim() !== '')
    book.save({ subject: { ...typed.subject }, claims, rules: review.value.rules })
  },
  { deep: true },
)

/** What the server read each line as, matched by its text. */
function readAs(text: string): string {
  const line = review.value.claims.find((c) => c.text === text)
  if (!line) return ''
  if (line.error) return line.error
  return line.powers.map((p) => `${p.level} ${claimed({ claimed_w: p.w, pep: p.pep })}${p.mode === 'FM' ? '' : ` ${p.mode}`}`).join(', ')
}
const wrong = (text: string) => Boolean(review.value.claims.find((c) => c.text === text)?.error)

function setVolts(field: 'supply_min_v' | 'supply_v' | 'supply_max_v', value: string) {
  const v = Number(value.replace(',', '.'))
  typed.subject[field] = value.trim() !== '' && v > 0 ? v : undefined
}

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
      <div v-for="(c, i) in typed.claims" :key="i" class="claim">
        <div>
          <ElInput v-model="c.text" class="mono" :placeholder="i === 0 ? '2m 5/2/0.5' : 'another band'" :aria-label="`Claim ${i + 1}`" :name="`claim-${i}`" />
          <p class="echo" :class="wrong(c.text) ? 'danger' : 'soft'" aria-live="polite">{{ readAs(c.text) }}</p>
        </div>
        <div>
          <ElInput v-model="c.source" placeholder="box, or manual page" :aria-label="`Source of claim ${i + 1}`" />
          <p v-if="c.text.trim() && !c.source?.trim()" class="echo soft">an edition needs to say where</p>
        </div>
        <ElInput v-model="c.read_on" type="date" :aria-label="`Claim ${i + 1} read on`" />
      </div>
      <ClaimPicture :cells="book.cells" />
    </section>
    <section class="unit">
      <h2>The unit</h2>
      <div class="pair">
        <label>Maker<ElInput v-model="typed.subject.maker" name="unit-maker" /></label>
        <label>Model<ElInput v-model="typed.subject.model" /></label>
        <label>Serial<ElInput v-model="typed.subject.serial" name="serial" /></label>
        <label>Date code<ElInput v-model="typed.subject.date_code" name="date-code" /></label>
        <label>Firmware<ElInput v-model="typed.subject.firmware" /></label>
        <label>Changes made to it<ElInput v-model="typed.subject.changes" placeholder="none" /></label>
      </div>
      <h3>Supply, V</h3>
      <div class="trio">
        <label>Lowest<TypedLine :value="typed.subject.supply_min_v?.toString() ?? ''" name="supply-min-v" @commit="(v) => setVolts('supply_min_v', v)" /></label>
        <label>Nominal<TypedLine :value="typed.subject.supply_v?.toString() ?? ''" name="supply-v" @commit="(v) => setVolts('supply_v', v)" /></label>
        <label>Highest<TypedLine :value="typed.subject.supply_max_v?.toString() ?? ''" name="supply-max-v" @commit="(v) => setVolts('supply_max_v', v)" /></label>
      </div>
      <p class="soft small">A reading below the lowest cannot be held against the claim.</p>
      <fieldset>
        <legend>How it was come by</legend>
        <label v-for="w in ways" :key="w.value" class="choice"><input v-model="typed.subject.come_by" type="radio" name="come-by" :value="w.value" />{{ w.label }}</label>
        <ElInput v-model="typed.subject.come_by_note" placeholder="from whom, on what terms" aria-label="From whom, on what terms" />
      </fieldset>
      <fieldset>
        <legend>Your interest in it</legend>
        <label v-for="w in interests" :key="w.value" class="choice"><input v-model="typed.subject.interest" type="radio" name="interest" :value="w.value" />{{ w.label }}</label>
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
.claim {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr) 158px;
  gap: 14px;
  align-items: start;
}
.claim :deep(.mono input) {
  font: 400 20px 'IBM Plex Mono', monospace;
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
