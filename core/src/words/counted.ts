const IRREGULAR: Readonly<Record<string, string>> = { activity: 'activities', dummy: 'dummies' }

/** "1 link", "3 links", "2 activities". */
export const counted = (n: number, word: string): string =>
  `${n} ${n === 1 ? word : (IRREGULAR[word] ?? `${word}s`)}`
