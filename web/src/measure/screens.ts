// The screens of the kinds of measurement, found by their folders: Stage.vue takes one,
// Evidence.vue shows what stands behind its box on the board.
import type { Component } from 'vue'

type Loader = () => Promise<{ default: Component }>
const stages = import.meta.glob<{ default: Component }>('./*/Stage.vue')
const evidences = import.meta.glob<{ default: Component }>('./*/Evidence.vue')

export const screens = Object.entries(stages).map(([file, stage]) => {
  const kind = file.split('/')[1]!
  return { kind, stage: stage as Loader, evidence: evidences[`./${kind}/Evidence.vue`] as Loader }
})
