import { useRefresh } from '../api/queries'
import { useNotices } from './notices'

/** Undoes what the notice at the foot of the page says. */
export function useUndo() {
  const refresh = useRefresh()
  const notices = useNotices()
  return async function undo() {
    const way = notices.notice?.undo
    notices.notice = undefined
    if (!way) return
    try {
      await way()
      notices.say('Undone.')
    } catch (fault) {
      notices.fail(fault)
    }
    await refresh()
  }
}
