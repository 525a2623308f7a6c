<template>
  <main>Salt Tide</main>
</template>
