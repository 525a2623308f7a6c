<template>
  <div class="page">
    <h1>Off the chart</h1>
    <p class="my-3">There is no such page. It may have moved, or there is a typo in the address.</p>
    <v-btn :to="{ name: 'harbour' }">To Harbour</v-btn>
  </div>
</template>
