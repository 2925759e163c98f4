import { ref, type Ref } from 'vue'
import { Trouble } from '../api/client'

/** Something an operator sets going: once at a time, its trouble shown where it was begun. */
export function useAct(): {
  isBusy: Ref<boolean>
  trouble: Ref<Trouble | null>
  run: <T>(work: () => Promise<T>) => Promise<T | undefined>
} {
  const isBusy = ref(false)
  const trouble = ref<Trouble | null>(null)
  async function run<T>(work: () => Promise<T>): Promise<T | undefined> {
    if (isBusy.value) return undefined
    isBusy.value = true
    trouble.value = null
    try {
      return await work()
    } catch (e) {
      if (!(e instanceof Trouble)) throw e
      trouble.value = e
      return undefined
    } finally {
      isBusy.value = false
    }
  }
  return { isBusy, trouble, run }
}
