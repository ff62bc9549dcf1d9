/** A letter of a text that is moved by hand, as the step names it: the letter and the how-manieth of its kind. */
export interface OneLetter {
  key: string
  said: string
}

/** How a letter is moved by hand; what is not named is as the face has it. */
export type Moved = Partial<Record<'along' | 'up' | 'turn' | 'shear' | 'wide' | 'high', number>>

/** The letters of a text that can be seen, each by the name that the step gives it. */
export function lettersOf(text: string): OneLetter[] {
  const seen = new Map<string, number>()
  return [...text.normalize('NFC')]
    .filter((letter) => letter.trim())
    .map((letter) => {
      const nth = (seen.get(letter) ?? 0) + 1
      seen.set(letter, nth)
      return { key: `${letter} ${nth}`, said: letter }
    })
}

/** Letters moved by hand with one of them moved otherwise; a value that is as it was anyway is not kept. */
export function withMoved(
  letters: Record<string, Moved>,
  key: string,
  name: keyof Moved,
  value: number,
): Record<string, Moved> | undefined {
  const usual = name === 'wide' || name === 'high' ? 1 : 0
  const own: Moved = { ...letters[key], [name]: value }
  if (value === usual) delete own[name]
  const rest = Object.fromEntries(Object.entries(letters).filter(([other]) => other !== key))
  const next = Object.keys(own).length ? { ...rest, [key]: own } : rest
  return Object.keys(next).length ? next : undefined
}

/** The rows of a CSV text (RFC 4180), and of a plain list: one name in each. The sign between fields is the one that
 * stands most often in the first line. */
export function rowsOf(text: string): string[][] {
  const first = text.split(/\r?\n/, 1)[0] ?? ''
  const between = [';', '\t', ','].sort((a, b) => first.split(b).length - first.split(a).length)[0]
  const rows: string[][] = [[]]
  let field = ''
  let quoted = false
  const end = () => {
    rows.at(-1)!.push(field.trim())
    field = ''
  }
  const plain = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n')
  for (let at = 0; at < plain.length; at++) {
    const sign = plain[at]
    if (quoted) {
      if (sign === '"' && plain[at + 1] === '"') field += plain[at++]
      else if (sign === '"') quoted = false
      else field += sign
    } else if (sign === '"' && !field.trim()) quoted = true
    else if (sign === between) end()
    else if (sign === '\n') {
      end()
      rows.push([])
    } else field += sign
  }
  end()
  return rows.filter((row) => row.some(Boolean))
}
