import { ref } from 'vue'

export type Look = 'system' | 'light' | 'dark'
const KEPT = 'ebb-look'
const system = window.matchMedia('(prefers-color-scheme: dark)')

export const look = ref<Look>((localStorage.getItem(KEPT) as Look | null) ?? 'system')

function apply(): void {
  const dark = look.value === 'dark' || (look.value === 'system' && system.matches)
  document.documentElement.classList.toggle('dark', dark)
}

export function setLook(next: Look): void {
  look.value = next
  localStorage.setItem(KEPT, next)
  apply()
}

system.addEventListener('change', apply)
apply()
