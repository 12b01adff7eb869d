/** `v-focus`: a field that has just appeared because somebody asked for it takes the keys. */
import type { Directive } from 'vue'

export const vFocus: Directive<HTMLElement> = { mounted: (element) => element.focus() }
