import { onScopeDispose, ref, watch, type Ref, type WatchSource } from 'vue'
import { Trouble } from '../api/client'
import { onChanged } from '../live'

export interface Resource<T> {
  data: Ref<T | null>
  trouble: Ref<Trouble | null>
  isLoading: Ref<boolean>
  reload: () => Promise<void>
  /** Reads it again, but after what is being read: news that keep coming must not starve a page. */
  look: () => void
}

/**
 * Something read from the service, kept as it is there: read again when what it depends on changes
 * and whenever anything is written. What is shown stays while it is read again.
 */
export function useResource<T>(
  read: (signal: AbortSignal) => Promise<T>,
  on: WatchSource[] = [],
  live = true
): Resource<T> {
  const data = ref<T | null>(null) as Ref<T | null>
  const trouble = ref<Trouble | null>(null)
  const isLoading = ref(true)
  let running: AbortController | null = null
  let isReading = false
  let isDue = false

  async function reload(): Promise<void> {
    running?.abort()
    const mine = (running = new AbortController())
    isReading = true
    isDue = false
    try {
      const read_ = await read(mine.signal)
      if (mine === running) {
        data.value = read_
        trouble.value = null
      }
    } catch (e) {
      if (mine !== running || (e instanceof DOMException && e.name === 'AbortError')) return
      if (!(e instanceof Trouble)) throw e
      trouble.value = e
      // It will answer again some day: what was shown is shown meanwhile.
      if (e.status === 0) window.setTimeout(() => mine === running && reload(), 3000)
    } finally {
      if (mine === running) {
        isLoading.value = isReading = false
        if (isDue) void reload()
      }
    }
  }

  function look(): void {
    if (isReading) isDue = true
    else void reload()
  }

  watch(
    on,
    () => {
      data.value = null
      isLoading.value = true
      void reload()
    },
    { immediate: true }
  )
  if (live) onChanged(look)
  onScopeDispose(() => {
    running?.abort()
    running = null
  })
  return { data, trouble, isLoading, reload, look }
}
