/** A short sound when a figure was taken, for whoever looks at the part and not at the screen. Off until wanted. */
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'

const kept = useStorage<'on' | 'off'>('elvarn-sound', 'off')
export const sound = computed(() => kept.value === 'on')
let context: AudioContext | undefined

export function toggleSound(): void {
  kept.value = sound.value ? 'off' : 'on'
  tell()
}

/** One short tone: high for a figure that was taken, low for one that was not. */
export function tell(taken = true): void {
  if (!sound.value) return
  context ??= new AudioContext()
  const tone = context.createOscillator()
  const level = context.createGain()
  tone.frequency.value = taken ? 880 : 220
  level.gain.setValueAtTime(0.2, context.currentTime)
  level.gain.exponentialRampToValueAtTime(0.001, context.currentTime + 0.15)
  tone.connect(level).connect(context.destination)
  tone.start()
  tone.stop(context.currentTime + 0.16)
}
