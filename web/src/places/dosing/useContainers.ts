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
  const away = (container: number) =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/containers/{container_id}/away', {
          params: { path: { ...path, container_id: container }, header },
        }),
      ),
    )
  return { ...commands, happened, add, away }
}
