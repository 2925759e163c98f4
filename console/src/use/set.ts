import { useRouter } from 'vue-router'
import { api, Trouble, type Schemas } from '../api/client'
import { useSession } from '../session'

/**
 * Makes a change set of what was shown already, lets it through if the operator may and nothing stops it,
 * and goes to where it is followed.
 */
export function useShownSet(): (path: string, body: unknown) => Promise<void> {
  const router = useRouter()
  const session = useSession()
  return async (path, body) => {
    const set = await api<Schemas['ChangeSetView']>(path, { method: 'POST', body })
    if (session.may('release') && !set.stops.length) {
      try {
        await api(`/api/v1/change-sets/${set.id}/release`, { method: 'POST', body: {}, version: set.version })
      } catch (e) {
        // What stopped it meanwhile is said on its page, with what to do.
        if (!(e instanceof Trouble)) throw e
      }
    }
    await router.push(`/now/change-sets/${set.id}`)
  }
}
