/** Who is at the bench, in which units, by day or by night: kept in this browser. */
import { computed, ref, shallowRef, watchEffect } from 'vue'
import { fill, get, newId, put, type Schemas } from '@/api/client'

export type Preset = 'trade' | 'metric'

const shop = shallowRef<Schemas['ShopView']>()
const personId = ref(localStorage.getItem('elvarn-person') ?? '')
const units = ref<Preset>((localStorage.getItem('elvarn-units') as Preset | null) ?? 'trade')
/** The gain that the bench is to show, in percent. */
const wantedGain = ref(Number(localStorage.getItem('elvarn-wanted-gain')) || 1)
const night = ref(localStorage.getItem('elvarn-night') === 'yes')

watchEffect(() => {
  localStorage.setItem('elvarn-person', personId.value)
  localStorage.setItem('elvarn-units', units.value)
  localStorage.setItem('elvarn-wanted-gain', String(wantedGain.value))
  localStorage.setItem('elvarn-night', night.value ? 'yes' : 'no')
  document.documentElement.classList.toggle('night', night.value)
})

async function loadShop(): Promise<void> {
  await fill(shop, get<Schemas['ShopView']>('/api/shop'))
  const people = shop.value?.people ?? []
  if (!people.some((p) => p.id === personId.value)) personId.value = people[0]?.id ?? ''
}

async function addPerson(name: string): Promise<void> {
  const id = newId()
  await put(`/api/people/${id}`, { name })
  await loadShop()
  personId.value = id
}

export function useSession() {
  return {
    shop,
    personId,
    units,
    wantedGain,
    night,
    person: computed(() => shop.value?.people.find((p) => p.id === personId.value)),
    loadShop,
    addPerson,
  }
}
