import type { Check } from '../check.ts'
import { setLink } from '../repairChanges.ts'

/** Links that stood on a group in the file they came from, and were turned into links of its open starts and finishes. */
export const groupLink: Check = {
  id: 'group-link',
  topic: 'Logic',
  title: 'Links that stood on a group',
  clean: 'no links that stood on groups',
  why: 'A link on a group says that something in it drives or waits, but not what. It was tied to the open ends that the group had on import; whether those are the right ones, only you know.',
  of: 'links',
  bias: { direction: 'either way', because: 'a link on a group may tie work that does not wait' },
  limit: null,
  find(context) {
    return context.plan.links
      .filter((link) => link.ofGroup)
      .map((link) => ({
        place: link.id,
        facts: { link: `${context.code(link.from)} ${link.type} ${context.code(link.to)}` },
        severity: 'caution' as const,
        activities: [link.from, link.to],
        links: [link.id],
        message: `${context.code(link.from)} to ${context.code(link.to)} (${link.type}) stood on a group`,
        value: 1,
        threshold: 0,
        without: { kind: 'remove' as const, list: 'links' as const, key: link.id },
        repairs: [
          {
            kind: 'keep',
            label: 'It is right: keep it as a link of these two',
            change: setLink(link.id, { ofGroup: null }),
          },
          {
            kind: 'remove-link',
            label: 'Remove the link',
            change: { kind: 'remove' as const, list: 'links' as const, key: link.id },
          },
        ],
      }))
  },
}
