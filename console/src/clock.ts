import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, type Schemas } from './api/client'

/** Business time, by which people start and end; the demo can move it ahead of the wall clock. */
export const useClock = defineStore('clock', () => {
  const now = ref(new Date())
  let ahead = 0

  function tick(): void {
    now.value = new Date(Date.now() + ahead)
  }

  async function load(): Promise<void> {
    const read = await api<Schemas['ClockView']>('/api/v1/clock')
    ahead = new Date(read.now).getTime() - Date.now()
    tick()
  }

  window.setInterval(tick, 20_000)
  return { now, load }
})
