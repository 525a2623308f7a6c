import { ref, watch } from 'vue'
import { useTheme } from 'vuetify'

/** Night or day, remembered on this device. */
export function useNight() {
  const theme = useTheme()
  const night = ref(localStorage.getItem('salttide.night') === '1')
  watch(
    night,
    (on) => {
      theme.change(on ? 'night' : 'paper')
      localStorage.setItem('salttide.night', on ? '1' : '0')
    },
    { immediate: true },
  )
  return night
}
