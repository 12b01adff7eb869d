/** How wide a picture may be: of its box, as the browser tells it, without asking for a layout in between. */
import { useResizeObserver } from '@vueuse/core'
import { type Ref, ref } from 'vue'

/** `before` is the width until it is told, `least` the one below which a picture is of no use. */
export function useWidth(box: Ref<HTMLElement | undefined>, before: number, least = 0): Ref<number> {
  const width = ref(before)
  useResizeObserver(box, ([entry]) => {
    width.value = Math.max(least, entry?.contentRect.width ?? before)
  })
  return width
}
