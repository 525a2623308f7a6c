<template>
  <div class="page">
    <h1>Off the chart</h1>
    <p class="my-3">There is no such page. It may have been moved, or the address has a slip in it.</p>
    <v-btn :to="{ name: 'harbour' }">To Harbour</v-btn>
  </div>
</template>
