<script setup lang="ts">
import { useReminderSetting } from '../../parts/reminders'

/** Whether this browser tells about the day's work; each browser has its own setting. */
const { wanted, allowed, able, want } = useReminderSetting()
</script>

<template>
  <section class="rings">
    <h2>Browser notifications</h2>
    <p v-if="!able" class="note">This browser cannot show notifications.</p>
    <template v-else>
      <label>
        <input
          type="checkbox"
          :checked="wanted"
          @change="want(($event.target as HTMLInputElement).checked)"
        />
        notify me of the day’s work as early as the alarm
      </label>
      <p class="note">
        <template v-if="allowed === 'denied'"
          >This browser blocks notifications for this page; you can allow them in its settings.</template
        >
        <template v-else>Only while Salt Tide is open in a tab. Nothing is sent anywhere.</template>
      </p>
    </template>
  </section>
</template>

<style scoped>
.rings {
  margin-top: 22px;
}
</style>
