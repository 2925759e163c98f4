import { computed, onScopeDispose, ref, watch, type ComputedRef, type Ref, type WatchSource } from 'vue'
import { Trouble, type Page } from '../api/client'
import { onChanged } from '../live'

export interface Pages<T> {
  items: Ref<T[] | null>
  total: Ref<number | null>
  moreThan: Ref<number | null>
  trouble: Ref<Trouble | null>
  isLoading: Ref<boolean>
  hasMore: ComputedRef<boolean>
  more: () => Promise<void>
  reload: () => Promise<void>
}

/**
 * A list read page by page. When anything is written the pages shown are read again, and nobody
 * loses their place.
 */
export function usePages<T>(
  read: (cursor: string | null, signal: AbortSignal) => Promise<Page<T>>,
  on: WatchSource[]
): Pages<T> {
  const items = ref<T[] | null>(null) as Ref<T[] | null>
  const next = ref<string | null>(null)
  const total = ref<number | null>(null)
  const moreThan = ref<number | null>(null)
  const trouble = ref<Trouble | null>(null)
  const isLoading = ref(true)
  let shown = 1
  let running: AbortController | null = null
  let isDue = false

  async function load(pages: number, keep: boolean): Promise<void> {
    running?.abort()
    const mine = (running = new AbortController())
    isLoading.value = true
    isDue = false
    try {
      const all: T[] = keep && items.value ? [...items.value] : []
      let cursor = keep ? next.value : null
      for (let i = 0; i < pages; i++) {
        const page = await read(cursor, mine.signal)
        all.push(...page.items)
        cursor = page.next
        total.value = page.total
        moreThan.value = page.moreThan
        if (!cursor) break
      }
      if (mine !== running) return
      items.value = all
      next.value = cursor
      trouble.value = null
    } catch (e) {
      if (mine !== running || (e instanceof DOMException && e.name === 'AbortError')) return
      if (!(e instanceof Trouble)) throw e
      trouble.value = e
      if (e.status === 0) window.setTimeout(() => mine === running && load(pages, keep), 3000)
    } finally {
      if (mine === running) {
        isLoading.value = false
        if (isDue) look()
      }
    }
  }

  /** After what is being read: news that keep coming must not starve a page. */
  function look(): void {
    if (isLoading.value) isDue = true
    // A long list read again would take longer than it is worth; its first pages tell of changes.
    else if (shown <= 4) void load(shown, false)
  }

  async function more(): Promise<void> {
    if (isLoading.value || !next.value) return
    shown++
    await load(1, true)
  }

  watch(
    on,
    () => {
      shown = 1
      items.value = null
      next.value = null
      void load(1, false)
    },
    { immediate: true }
  )
  onChanged(look)
  onScopeDispose(() => {
    running?.abort()
    running = null
  })
  return {
    items, total, moreThan, trouble, isLoading, hasMore: computed(() => next.value !== null), more,
    reload: () => load(shown, false)
  }
}
