<script setup lang="ts">
import { useReminderSetting } from '../../parts/reminders'

/** Whether this browser tells about the day's work; each browser has its own setting. */
const { wanted, allowed, able, want } = useReminderSetting()
</script>

<template>
  <section class="rings">
    <h2>Told by this browser</h2>
    <p v-if="!able" class="note">This browser cannot show notifications.</p>
    <template v-else>
      <label>
        <input
          type="checkbox"
          :checked="wanted"
          @change="want(($event.target as HTMLInputElement).checked)"
        />
        tell me about the day’s work, as long before it begins as the alarm
      </label>
      <p class="note">
        <template v-if="allowed === 'denied'"
          >This browser forbids notifications for this page; its settings can allow them.</template
        >
        <template v-else>As long as Salt Tide is open in some tab of it. Nothing is sent to anyone.</template>
      </p>
    </template>
  </section>
</template>

<style scoped>
.rings {
  margin-top: 22px;
}
</style>
