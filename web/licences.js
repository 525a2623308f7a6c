import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const PACKAGE = /^.*\/node_modules\/((?:@[^/]+\/)?[^/]+)/

/** The licences of everything that is built into the app, as one text beside it. */
export function licences() {
  const folders = new Set()
  return {
    name: 'licences',
    apply: 'build',
    load(id) {
      const found = PACKAGE.exec(id.replace(/^\0/, ''))
      if (found) folders.add(found[0])
      return null
    },
    generateBundle() {
      const texts = [...folders].filter((folder) => existsSync(join(folder, 'package.json'))).map(told)
      const source = texts.sort().join(`\n${'-'.repeat(72)}\n`)
      this.emitFile({ type: 'asset', fileName: 'licences.txt', source })
    },
  }
}

function told(folder) {
  const known = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf-8'))
  const file = readdirSync(folder).find((name) => /^licen[cs]e/i.test(name))
  const text = file ? readFileSync(join(folder, file), 'utf-8').trim() : `Licence: ${known.license}`
  return `${known.name} ${known.version} (${known.license})\n\n${text}\n`
}
