import { NodeTypes, type NodeTransform, type TemplateChildNode } from '@vue/compiler-core'

/**
 * White space in templates as HTML has it: any run of it is one space, a line break too. Vue's own rule drops it between two
 * elements where a line ends, so that formatting a template changed its sentences. Used with `whitespace: 'preserve'`.
 */
export const htmlSpaces: NodeTransform = (node) => {
  if (node.type === NodeTypes.TEXT) node.content = node.content.replace(/\s+/g, ' ')
  if (node.type !== NodeTypes.ELEMENT && node.type !== NodeTypes.ROOT) return
  // At the edges of an element it is never seen.
  while (isBlank(node.children[0])) node.children.shift()
  while (isBlank(node.children.at(-1))) node.children.pop()
}

const isBlank = (child: TemplateChildNode | undefined): boolean =>
  child?.type === NodeTypes.TEXT && child.content.trim() === ''
