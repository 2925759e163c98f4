<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useClock } from './clock'
import { isLive } from './live'
import { look, setLook, type Look } from './looks'
import FindBox from './parts/FindBox.vue'
import SignInAgain from './parts/SignInAgain.vue'
import { PLACES } from './places'
import { useSession } from './session'
import { exact } from './use/words'

const session = useSession()
const clock = useClock()
const route = useRoute()
const router = useRouter()
const isFinding = ref(false)
const places = computed(() => PLACES.filter((one) => session.may(one.act)))
const LOOKS: [Look, string][] = [['light', 'Light'], ['dark', 'Dark'], ['system', 'As the system']]

function onKey(event: KeyboardEvent): void {
  const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [contenteditable]')
  if (event.key === '/' && !typing && session.isSignedIn && !event.ctrlKey && !event.metaKey && !event.altKey) {
    event.preventDefault()
    isFinding.value = true
  }
}
onMounted(() => {
  window.addEventListener('keydown', onKey)
  if (session.isSignedIn) void clock.load().catch(() => undefined)
})
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))

async function signOut(): Promise<void> {
  await session.signOut()
  await router.push('/sign-in')
}
</script>

<template>
  <template v-if="session.isSignedIn && !route.meta.open">
    <a class="skip" href="#content">To the content</a>
    <header>
      <RouterLink to="/now" class="name" aria-label="Ebb, to Now">
        <svg viewBox="0 0 32 32" width="24" height="24" aria-hidden="true"><path class="cup" d="M3 5h26l-4 23H7z" /><path class="air" d="M5.400 7.200h21.200l-1.600 9.200c-3-2.400-5.600-2.400-8.600 0s-6.200 2.400-9.400 0z" /></svg>
        <span>Ebb</span>
      </RouterLink>
      <nav aria-label="Places">
        <RouterLink v-for="place in places" :key="place.to" :to="place.to" :title="place.asks" :aria-current="route.path.startsWith(place.to) ? 'page' : undefined" :class="{ here: route.path.startsWith(place.to) }">{{ place.name }}</RouterLink>
      </nav>
      <button class="find" type="button" @click="isFinding = true"><kbd>/</kbd> Find</button>
      <details class="self">
        <summary>{{ session.who?.name }}</summary>
        <div class="menu">
          <p class="small soft">{{ session.who?.role }}<template v-if="session.who?.units.length || session.who?.kinds.length"> for {{ [...(session.who?.units ?? []), ...(session.who?.kinds ?? [])].join(', ') }}</template></p>
          <p class="small soft" title="Business time: by it people start and end">{{ exact(clock.now.toISOString()) }}</p>
          <RouterLink to="/self">Password, second factor</RouterLink>
          <fieldset>
            <legend class="small soft">Looks</legend>
            <label v-for="[value, words] in LOOKS" :key="value"><input type="radio" name="look" :value="value" :checked="look === value" @change="setLook(value)" /> {{ words }}</label>
          </fieldset>
          <button type="button" class="out" @click="signOut">Sign out</button>
        </div>
      </details>
    </header>
    <p v-if="!isLive" class="broken" role="status">What is shown may be old: Ebb does not answer. It is tried again by itself.</p>
    <p v-if="session.who?.warning" class="warning small">{{ session.who.warning }}</p>
    <main id="content"><RouterView /></main>
    <FindBox v-model:open="isFinding" />
    <SignInAgain />
  </template>
  <RouterView v-else />
</template>

<style scoped>
header { display: flex; flex-wrap: wrap; align-items: stretch; gap: 0 1.4rem; padding: 0 1.6rem; background: var(--sheet); border-bottom: 3px solid var(--water); position: sticky; top: 0; z-index: 5; }
.name { display: flex; align-items: center; gap: 0.5rem; font-weight: 700; font-size: 1.15rem; text-decoration: none; color: var(--water); padding: 0.5rem 0; }
.cup { fill: var(--water); }
.air { fill: var(--sheet); }
nav { display: flex; flex: 1; gap: 0.2rem; }
nav a { padding: 0.75rem 0.8rem 0.55rem; text-decoration: none; color: var(--ink); border-bottom: 4px solid transparent; }
nav a:nth-child(4) { margin-left: 1.4rem; }
nav a:hover { background: var(--hover); }
nav a.here { font-weight: 700; color: var(--water); background: linear-gradient(to top, var(--water-soft) 45%, transparent 45%); }
.find, .out { font: inherit; color: var(--ink-soft); background: var(--paper); border: 1px solid var(--line-strong); border-radius: 3px; padding: 0.2rem 2.5rem 0.2rem 0.6rem; cursor: pointer; align-self: center; }
.out { padding: 0.25rem 0.8rem; color: var(--ink); }
kbd { border: 1px solid var(--line-strong); border-radius: 2px; padding: 0 0.35rem; font-size: 0.85em; }
.self { position: relative; align-self: center; }
summary { cursor: pointer; padding: 0.4rem 0; }
.menu { position: absolute; right: 0; top: 2.3rem; background: var(--sheet); border: 1px solid var(--line-strong); padding: 0.8rem 1rem; min-width: 17rem; display: grid; gap: 0.5rem; box-shadow: 0 4px 14px #0003; }
fieldset { border: 0; padding: 0; margin: 0; display: grid; }
main { padding: 1.4rem 1.6rem 4rem; max-width: 1680px; margin: 0 auto; }
.skip { position: absolute; left: -999px; }
.skip:focus { left: 0.5rem; top: 0.5rem; background: var(--sheet); padding: 0.4rem; z-index: 9; }
.broken { margin: 0; padding: 0.45rem 1.6rem; background: var(--signal-soft); color: var(--ink); border-bottom: 1px solid var(--signal); position: sticky; top: 0; }
.warning { margin: 0; padding: 0.3rem 1.6rem; color: var(--ink-soft); background: var(--hover); }
</style>
