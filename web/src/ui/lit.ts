/** What the margin points at: the worktop lights it up while a figure in a sentence is pointed at. */
import { ref } from 'vue'

const lit = ref<string>()

export const useLit = () => lit
