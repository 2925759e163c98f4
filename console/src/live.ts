import { getCurrentScope, onScopeDispose, ref } from 'vue'

/** Whether the stream of changes is open; pages say so when it is not. */
export const isLive = ref(true)

const listeners = new Set<() => void>()
let stream: EventSource | null = null
let due: number | undefined

function tell(): void {
  // Many writes in a row are one look.
  if (due === undefined) {
    due = window.setTimeout(() => {
      due = undefined
      listeners.forEach((one) => one())
    }, 300)
  }
}

function open(): void {
  stream = new EventSource('/api/v1/events')
  stream.addEventListener('open', () => {
    if (!isLive.value) tell()
    isLive.value = true
  })
  stream.addEventListener('changed', tell)
  stream.addEventListener('error', () => {
    isLive.value = false
    // A browser gives up on some errors; we do not.
    if (stream?.readyState === EventSource.CLOSED) {
      stream = null
      window.setTimeout(() => listeners.size && !stream && open(), 2000)
    }
  })
}

/** Calls back after anything was written, for as long as the calling component lives. */
export function onChanged(look: () => void): void {
  listeners.add(look)
  if (!stream) open()
  if (getCurrentScope()) {
    onScopeDispose(() => {
      listeners.delete(look)
      if (!listeners.size) {
        stream?.close()
        stream = null
      }
    })
  }
}
