import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import ts from 'typescript'
import { describe, expect, it } from 'vitest'

/** CONTRIBUTING says in how many files a field, a list and a kind of change stand; the compiler is asked whether that is so. */

const ROOT = fileURLToPath(new URL('../../', import.meta.url))
const config = ts.parseJsonConfigFileContent(
  ts.readConfigFile(`${ROOT}tsconfig.json`, (file) => readFileSync(file, 'utf8')).config,
  ts.sys,
  ROOT,
  { noEmit: true, composite: false, incremental: false },
)
let earlier: ts.Program | undefined

type Edits = Readonly<Record<string, readonly (readonly [from: string, to: string])[]>>
/**
 * Files of core that do not compile once the texts of some are edited.
 * @param among - the only one that is looked at, which is much quicker
 */
const brokenBy = (edits: Edits, among?: string): string[] => {
  const host = ts.createCompilerHost(config.options)
  const read = host.getSourceFile.bind(host)
  host.getSourceFile = (name, version, ...rest) => {
    const edited = edits[name.replace(`${ROOT}src/`, '')]
    const known = earlier?.getSourceFile(name)
    if (!edited) return known && !name.startsWith(`${ROOT}src/`) ? known : read(name, version, ...rest)
    let text = readFileSync(name, 'utf8')
    for (const [from, to] of edited) {
      expect(text, `${name} has no longer what the test replaces`).toContain(from)
      text = text.replace(from, to)
    }
    return ts.createSourceFile(name, text, version)
  }
  const program = ts.createProgram(config.fileNames, config.options, host, undefined)
  earlier ??= program
  const files = (
    among === undefined
      ? ts.getPreEmitDiagnostics(program)
      : program.getSemanticDiagnostics(program.getSourceFile(`${ROOT}src/${among}`))
  ).map(({ file }) => file?.fileName.replace(`${ROOT}src/`, '') ?? '')
  return [...new Set(files)].sort()
}

const FIELD_SHAPE: Edits = {
  'plan/schema.ts': [
    [
      '    owner: text.nullable().default(null),',
      "    owner: text.nullable().default(null),\n    weather: text.default(''),",
    ],
  ],
}
const FIELD_MEANING: Edits = {
  'plan/fields.ts': [
    ["    owner: said('owner'),", "    owner: said('owner'),\n    weather: said('weather'),"],
  ],
}
const LIST_SHAPE: Edits = {
  'plan/schema.ts': [
    [
      '    scenarios: z.array(scenarioSchema).default([]),',
      '    scenarios: z.array(scenarioSchema).default([]),\n    sites: z.array(z.looseObject({ id })).default([]),',
    ],
  ],
}
const LIST_KEY = ['  views: byId,', '  views: byId,\n  sites: byId,'] as const
const LIST_MEANING = ["  views: loose('view'),", "  views: loose('view'),\n  sites: loose('site'),"] as const
const LIST_FIELDS = [
  '  views: {\n    id:',
  "  sites: { id: said('identity') },\n  views: {\n    id:",
] as const

/** Each compiles core; how long that takes depends on what else the machine does. */
const COMPILED_MS = 300_000

describe('adding', () => {
  it(
    'a field or a list takes its shape and its meaning: two files',
    () => {
      const listKey: Edits = { ...LIST_SHAPE, 'plan/fields.ts': [LIST_KEY] }
      expect(brokenBy(FIELD_SHAPE, 'plan/fields.ts')).toEqual(['plan/fields.ts'])
      expect(brokenBy(listKey, 'plan/fields.ts')).toEqual(['plan/fields.ts'])
      expect(
        brokenBy({
          'plan/schema.ts': [...FIELD_SHAPE['plan/schema.ts']!, ...LIST_SHAPE['plan/schema.ts']!],
          'plan/fields.ts': [...FIELD_MEANING['plan/fields.ts']!, LIST_KEY, LIST_FIELDS, LIST_MEANING],
        }),
      ).toEqual([])
    },
    COMPILED_MS,
  )

  it(
    'a kind of change is named by the compiler wherever it has to mean something',
    () => {
      const kind: Edits = {
        'plan/change.ts': [
          [
            "  | { kind: 'project'; set: Item }",
            "  | { kind: 'project'; set: Item }\n  | { kind: 'swap'; list: ListName; key: string; with: string }",
          ],
        ],
      }
      expect(brokenBy(kind)).toEqual([
        'plan/affects.ts',
        'plan/facts.ts',
        'plan/interpretChange.ts',
        'words/changes.ts',
      ])
    },
    COMPILED_MS,
  )
})
