// What the page is called while something is open on it; empty where its place names it.
import { ref } from 'vue'

const titled = ref('')
export const useTitled = () => titled
