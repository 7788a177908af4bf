/**
 * A lint rule: `!` stands only where a comment says why the value is there. `// !: why` covers what follows on its line or
 * begins on the next; in front of a function, all of it. `// name!, other!: why` covers those names in the whole file,
 * its template too: a name is how the expression ends, without what stands in its brackets (`rows[]`, `sheets.at()`). A
 * name that nothing needs is told as well. With `indexes: 'free'`, for arithmetic, a place of a list needs none: the loop around it says why.
 */
const REASON = /(?:^|[\s*])((?:\S+!(?:,\s*)?)+|!):\s+\S/g;

/** An expression without what stands in its brackets: `heads[i].sheet` is `heads[].sheet`. */
export function bare(text) {
  let depth = 0;
  let out = '';
  for (const c of text.replace(/\s+/g, ' ')) {
    if (c === ')' || c === ']') depth -= 1;
    if (depth === 0) out += c;
    if (c === '(' || c === '[') depth += 1;
  }
  return out.replaceAll('?.', '.').replaceAll('!', '');
}

const endsWith = (text, name) =>
  text === name || (text.endsWith(name) && (/^[[.]/.test(name) || /[.\s(]/.test(text[text.length - name.length - 1])));

/** What the comments of a file give reasons for: names in all of it, and lines where any may stand. */
function reasons(comments) {
  const names = [];
  const covering = [];
  for (const comment of comments)
    for (const [, said] of comment.value.matchAll(REASON)) {
      if (said === '!') covering.push(comment);
      else
        names.push(
          ...said
            .split('!')
            .map((n) => n.replace(/^[,\s`]+/, ''))
            .filter(Boolean)
            .map((name) => ({ name, comment, needed: false })),
        );
    }
  return { names, covering };
}

export default {
  meta: {
    type: 'suggestion',
    schema: [{ type: 'object', properties: { indexes: { enum: ['free'] } }, additionalProperties: false }],
    messages: {
      needless: 'No `{{ name }}!` is left in this file.',
      unsaid: 'Say why `{{ name }}` is there (// {{ name }}!: why), or write it so that no ! is needed.',
    },
  },
  create(context) {
    const source = context.sourceCode;
    const { names, covering } = reasons(source.getAllComments());
    const covered = (node) => {
      for (let at = node; at && at.type !== 'Program'; at = at.parent)
        if (
          covering.some(
            (c) =>
              c.loc.end.line === at.loc.start.line ||
              (c.loc.end.line === at.loc.start.line - 1 && c.range[1] <= at.range[0]),
          )
        )
          return true;
      return false;
    };
    const free = context.options[0]?.indexes === 'free';
    const visitor = {
      TSNonNullExpression(node) {
        if (free && node.expression.type === 'MemberExpression' && node.expression.computed) return;
        const name = bare(source.text.slice(...node.expression.range));
        const said = names.filter((n) => endsWith(name, n.name));
        for (const reason of said) reason.needed = true;
        if (said.length === 0 && !covered(node)) context.report({ node, messageId: 'unsaid', data: { name } });
      },
    };
    const tellNeedless = () => {
      for (const { name, comment, needed } of names)
        if (!needed) context.report({ loc: comment.loc, messageId: 'needless', data: { name } });
    };
    const { defineTemplateBodyVisitor } = source.parserServices;
    if (!source.ast.templateBody) return { ...visitor, 'Program:exit': tellNeedless };
    // The template is walked after the script.
    const inTemplate = {
      ...visitor,
      'VElement:exit': (element) => element === source.ast.templateBody && tellNeedless(),
    };
    return defineTemplateBodyVisitor(inTemplate, visitor);
  },
};
