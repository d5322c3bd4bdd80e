import fc from 'fast-check'

/**
 * Random plans are the same in every run, so that a change is judged by what it changed and not by luck.
 * `GEODROME_SEED=any` (or a number) looks at others: `npm run explore` does so in core.
 */
const asked = process.env['GEODROME_SEED'] ?? '20261128'
fc.configureGlobal({ seed: asked === 'any' ? (Math.random() * 2 ** 31) | 0 : Number(asked) })
