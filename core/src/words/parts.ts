/** Sentences as data: text and nouns, so that the interface can make every noun a link and the command line can print it. */
export type Part =
  | string
  | { readonly activity: string; readonly text: string }
  | { readonly calendar: string; readonly text: string }
  | { readonly strong: string }
export type Sentence = readonly Part[]

export const plainText = (sentence: Sentence): string =>
  sentence
    .map((part) => (typeof part === 'string' ? part : 'strong' in part ? part.strong : part.text))
    .join('')
