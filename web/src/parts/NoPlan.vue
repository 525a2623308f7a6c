<template>
  <aside class="note" role="status">No plan just now. Mend what is marked, and it comes back.</aside>
</template>
