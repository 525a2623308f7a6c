/** Whether this is the example household, which lives under a path of its own. */
export const EXAMPLE = location.pathname === '/example' || location.pathname.startsWith('/example/')
/** What addresses of this household begin with. */
export const BASE = EXAMPLE ? '/example' : ''

/** What is kept on the device for the example household never mixes with the keeper's own. */
function apart(storage: Storage): Storage {
  const named = (key: string) => `example.${key}`
  return new Proxy(storage, {
    get(target, name) {
      if (name === 'getItem') return (key: string) => target.getItem(named(key))
      if (name === 'setItem') return (key: string, value: string) => target.setItem(named(key), value)
      if (name === 'removeItem') return (key: string) => target.removeItem(named(key))
      return Reflect.get(target, name, target) as unknown
    },
  })
}
if (EXAMPLE)
  for (const name of ['localStorage', 'sessionStorage'] as const)
    Object.defineProperty(window, name, { value: apart(window[name]) })
