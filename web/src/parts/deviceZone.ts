import { watch, type Ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useRefresh } from '../api/queries'

/** A new house takes the device's time zone; the settings can change it. */
export function useDeviceZone(harbour: Ref<Schemas['Harbour'] | undefined>) {
  const refresh = useRefresh()
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone
  watch(
    () => harbour.value && !harbour.value.systems.length && harbour.value.zone === 'UTC' && here !== 'UTC',
    async (fresh) => {
      if (!fresh) return
      await api.PUT('/api/keeper', { body: { zone: here, units: {} } })
      await refresh()
    },
  )
}
