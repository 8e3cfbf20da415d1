// Plants mistakes of one line in the screens, one at a time, and says which no unit test finds:
//   node mutants.mjs [how many] [seed] [folder]
// The browser tests would find more; they take minutes a mistake. A file is put back whatever happens.
import { execFileSync, spawnSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import ts from 'typescript'

const [count = '20', seed = '1', folder = 'src'] = process.argv.slice(2)
const swaps = new Map([
  [ts.SyntaxKind.EqualsEqualsEqualsToken, '!=='],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, '==='],
  [ts.SyntaxKind.LessThanToken, '<='],
  [ts.SyntaxKind.LessThanEqualsToken, '<'],
  [ts.SyntaxKind.GreaterThanToken, '>='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '>'],
  [ts.SyntaxKind.AmpersandAmpersandToken, '||'],
  [ts.SyntaxKind.BarBarToken, '&&'],
  [ts.SyntaxKind.PlusToken, '-'],
  [ts.SyntaxKind.MinusToken, '+'],
  [ts.SyntaxKind.AsteriskToken, '/'],
  [ts.SyntaxKind.SlashToken, '*'],
])

/** The same numbers for the same seed (mulberry32). */
function random(state) {
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** Every mistake that can be planted in a file: from, to, and what stands there then. How wide a thing is drawn is none. */
function mistakesIn(file, text) {
  const found = []
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true)
  const put = (node, by) => found.push({ file, from: node.getStart(source), to: node.getEnd(), by })
  const visit = (node) => {
    if (ts.isJsxAttribute(node) || ts.isTaggedTemplateExpression(node) || ts.isTypeNode(node)) return
    if (ts.isBinaryExpression(node)) {
      const by = swaps.get(node.operatorToken.kind)
      if (by) put(node.operatorToken, by)
    }
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      put(node, node.operand.getText(source))
    if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false')
    if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true')
    if (ts.isNumericLiteral(node) && !file.endsWith('x')) put(node, String(Number(node.text) + 1))
    ts.forEachChild(node, visit)
  }
  visit(source)
  return found
}

const files = execFileSync('git', ['ls-files', folder], { encoding: 'utf8' })
  .split('\n')
  .filter((f) => /\.tsx?$/.test(f) && !/\.test\.ts$|\.gen\.ts$/.test(f))
const all = files.flatMap((f) => mistakesIn(f, readFileSync(f, 'utf8')))
const next = random(Number(seed))
let died = 0
let planted = 0
for (; planted < Number(count) && all.length > 0; planted++) {
  const [m] = all.splice(Math.floor(next() * all.length), 1)
  const text = readFileSync(m.file, 'utf8')
  const line = text.slice(0, m.from).split('\n').length
  try {
    writeFileSync(m.file, text.slice(0, m.from) + m.by + text.slice(m.to))
    const run = spawnSync('npx', ['vitest', 'related', '--run', '--bail=1', '--passWithNoTests', m.file], {
      encoding: 'utf8',
      timeout: 120_000,
    })
    if (run.status !== 0) died++
    else console.log(`lives: ${m.file}:${line}: ${m.by} for ${text.slice(m.from, m.to)}`)
  } finally {
    writeFileSync(m.file, text)
  }
}
console.log(`seed ${seed}: ${died} of ${planted} died`)
