import { api, command, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'

/** What is done with the containers of a system: each is recorded, and can be taken back. */
export function useContainers(system: number) {
  const commands = useCommands()
  const path = { system_id: system }
  const happened = (container: number, body: Schemas['ContainerEventBody']) =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/containers/{container_id}/events', {
          params: { path: { ...path, container_id: container }, header },
          body,
        }),
      ),
    )
  const add = (body: Schemas['ContainerBody']) =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/containers', { params: { path, header }, body }),
      ),
    )
  const change = (container: number, body: Schemas['ContainerBody']) =>
    commands.runWith(
      () =>
        command((header) =>
          api.PUT('/api/systems/{system_id}/containers/{container_id}', {
            params: { path: { ...path, container_id: container }, header },
            body,
          }),
        ),
      undefined,
    )
  /** One event is taken back; the notice's way back lets it count again. */
  const mark = (container: number, event: number, way: 'undo' | 'restore') =>
    command((header) =>
      api.POST(`/api/systems/{system_id}/containers/{container_id}/events/{event_id}/${way}`, {
        params: { path: { ...path, container_id: container, event_id: event }, header },
      }),
    )
  const takeBack = (container: number, event: number) =>
    commands.runWith(
      () => mark(container, event, 'undo'),
      () => mark(container, event, 'restore'),
    )
  const away = (container: number) =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/containers/{container_id}/archive', {
          params: { path: { ...path, container_id: container }, header },
        }),
      ),
    )
  return { ...commands, happened, add, change, takeBack, away }
}
