<template>
  <aside class="note" role="status">No plan yet. Correct what is marked and it will appear.</aside>
</template>
