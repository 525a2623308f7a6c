<script setup lang="ts"></script>
<template>
  <div class="page"><h1>Mix</h1></div>
</template>
