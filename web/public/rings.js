// Shows what rings where a page may not do it itself, as on phones, and opens the round when it is touched.
addEventListener('notificationclick', (event) => {
  event.notification.close()
  event.waitUntil(
    clients.matchAll({ type: 'window' }).then((pages) => {
      const page = pages[0]
      return page
        ? page.focus().then((shown) => shown.navigate('/rota/round'))
        : clients.openWindow('/rota/round')
    }),
  )
})
