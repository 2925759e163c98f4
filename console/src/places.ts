/** Where a thing is looked at: the same in every place that names it. */
export function placeOf(kind: string, key: string | number): string {
  const name = encodeURIComponent(String(key))
  switch (kind) {
    case 'person':
      return `/who/${name}`
    case 'unit':
      return `/who?unit=${name}`
    case 'group':
      return `/who/groups?group=${name}`
    case 'application':
      return `/where/${name}`
    case 'execution':
      return '/where'
    case 'feed':
      return `/where/feeds/${name}`
    case 'change-set':
      return `/now/change-sets/${name}`
    case 'import':
      return `/now/imports/${name}`
    case 'conflicts':
      return '/who/conflicts'
    case 'notices':
      return '/behind?tab=notices'
    case 'departure':
      return `/ahead/departures/${name}`
    default:
      return '/now'
  }
}

export const PLACES = [
  { name: 'Now', to: '/now', asks: 'What needs me, what is running?', act: 'see' },
  { name: 'Ahead', to: '/ahead', asks: 'What will happen?', act: 'see' },
  { name: 'Behind', to: '/behind', asks: 'What happened?', act: 'see' },
  { name: 'Who', to: '/who', asks: 'Who is this, what do they hold and why?', act: 'see' },
  { name: 'Where', to: '/where', asks: 'Is it well, does it agree with us?', act: 'see-settings' },
  { name: 'Why', to: '/why', asks: 'Who may do what?', act: 'operators' }
] as const
