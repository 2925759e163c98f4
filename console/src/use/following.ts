import { onScopeDispose, watch, type Ref } from 'vue'
import type { Schemas } from '../api/client'

const UNDER_WAY = ['queued', 'claimed', 'unsure']

export function isUnderWay(set: Schemas['ChangeSetView']): boolean {
  return set.state === 'releasing' || set.counts.some((one) => UNDER_WAY.includes(one.state))
}

/** Keeps a set that is under way as it is there, by its own stream; opens it again if it breaks. */
export function useFollowing(set: Ref<Schemas['ChangeSetView'] | null>): void {
  let stream: EventSource | null = null
  let id = 0
  const close = (): void => {
    stream?.close()
    stream = null
  }
  watch(
    set,
    (now) => {
      if (!now || !isUnderWay(now)) return close()
      if (stream && id === now.id) return
      close()
      id = now.id
      stream = new EventSource(`/api/v1/change-sets/${id}/events`)
      stream.addEventListener('progress', (event) => {
        set.value = JSON.parse((event as MessageEvent).data)
      })
      stream.addEventListener('error', () => {
        // The stream also ends when all is over; the page's own reading tells which it was.
        if (stream?.readyState === EventSource.CLOSED) stream = null
      })
    },
    { immediate: true }
  )
  onScopeDispose(close)
}
