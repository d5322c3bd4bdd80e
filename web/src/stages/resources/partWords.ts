import { codesWords, type LoadPart, type Plan } from '@geodrome/core'

/** "what Piping crew owns", "Hull", "trade: piping", "W20 and W30": whose part of a load it is. */
export const partWords = (plan: Plan, part: LoadPart): string => {
  switch (part.by) {
    case 'owner':
      return `what ${part.owner} owns`
    case 'group': {
      const group = plan.groups.find(({ id }) => id === part.group)
      return group ? `group ${group.name || group.code || 'without a name'}` : 'a group'
    }
    case 'tag':
      return `${part.tag}: ${part.value}`
    case 'activities': {
      const ids = new Set(part.ids)
      return codesWords(plan.activities.filter(({ id }) => ids.has(id)).map(({ code }) => code))
    }
  }
}
