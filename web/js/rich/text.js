// @ts-check
// Text as it is kept (CommonMark with tables, strikethrough and formulae, as package markdown reads
// it) and text as it is written: from the one to the other and back.

import MarkdownIt from 'markdown-it';
import { MarkdownParser, MarkdownSerializer, defaultMarkdownSerializer, schema as common } from 'prosemirror-markdown';
import { Schema } from 'prosemirror-model';
import { tableNodes } from 'prosemirror-tables';

/** @typedef {import('prosemirror-model').Node} Node */

const tables = tableNodes({ tableGroup: 'block', cellContent: 'inline*', cellAttributes: {} });

const shared = common.spec.nodes, of = (/** @type {string} */ name) => /** @type {import('prosemirror-model').NodeSpec} */ (shared.get(name));
const tightly = { tight: { default: true } };

/** What a text is made of. */
export const schema = new Schema({
  nodes: shared.remove('image').update('heading', { ...of('heading'), content: 'inline*' }).update('bullet_list', { ...of('bullet_list'), attrs: tightly }).update('ordered_list', { ...of('ordered_list'), attrs: { order: { default: 1 }, ...tightly } }).append(tables).append({
    formula: { group: 'inline', inline: true, content: 'text*', marks: '', code: true, parseDOM: [{ tag: 'code.formula' }], toDOM: () => ['code', { class: 'formula' }, 0] },
  }),
  marks: common.spec.marks.append({ strike: { parseDOM: [{ tag: 'del' }, { tag: 's' }], toDOM: () => ['del', 0] } }),
});

/** Formulae between two dollar signs in a line, as the server reads them. @param {MarkdownIt} md */
function formulae(md) {
  md.inline.ruler.before('escape', 'formula', (state, silent) => {
    const { src, pos } = state;
    if (src[pos] !== '$') return false;
    const line = src.slice(pos, src.indexOf('\n', pos) < 0 ? undefined : src.indexOf('\n', pos)), end = line.indexOf('$', 1);
    if (end < 2 || line[1] === ' ' || line[end - 1] === ' ' || /\d/.test(line[end + 1] ?? '')) return false;
    if (!silent) {
      state.push('formula_open', 'code', 1);
      state.push('text', '', 0).content = line.slice(1, end);
      state.push('formula_close', 'code', -1);
    }
    state.pos = pos + end + 1;
    return true;
  });
}

const reader = MarkdownIt('commonmark', { html: false }).enable(['table', 'strikethrough']).use(formulae);

const parser = new MarkdownParser(schema, reader, {
  blockquote: { block: 'blockquote' },
  paragraph: { block: 'paragraph' },
  list_item: { block: 'list_item' },
  bullet_list: { block: 'bullet_list', getAttrs: (_, tokens, i) => ({ tight: tight(tokens, i) }) },
  ordered_list: { block: 'ordered_list', getAttrs: (token, tokens, i) => ({ order: Number(token.attrGet('start')) || 1, tight: tight(tokens, i) }) },
  heading: { block: 'heading', getAttrs: (token) => ({ level: Number(token.tag.slice(1)) }) },
  code_block: { block: 'code_block', noCloseToken: true },
  fence: { block: 'code_block', getAttrs: (token) => ({ params: token.info || '' }), noCloseToken: true },
  hr: { node: 'horizontal_rule' },
  hardbreak: { node: 'hard_break' },
  formula: { block: 'formula' },
  em: { mark: 'em' },
  strong: { mark: 'strong' },
  s: { mark: 'strike' },
  link: { mark: 'link', getAttrs: (token) => ({ href: token.attrGet('href'), title: token.attrGet('title') || null }) },
  code_inline: { mark: 'code', noCloseToken: true },
  table: { block: 'table' },
  thead: { ignore: true },
  tbody: { ignore: true },
  tr: { block: 'table_row' },
  th: { block: 'table_header' },
  td: { block: 'table_cell' },
  image: { ignore: true, noCloseToken: true },
});

/** @param {readonly any[]} tokens @param {number} i */
function tight(tokens, i) {
  while (++i < tokens.length) if (tokens[i].type !== 'list_item_open') return tokens[i].hidden;
  return false;
}

/** A row of a table. @param {any} state @param {Node} row */
function writeRow(state, row) {
  row.forEach((cell) => {
    state.write('| ');
    const before = state.out.length;
    state.renderInline(cell, false);
    state.out = state.out.slice(0, before) + state.out.slice(before).replace(/\|/g, '\\|').replace(/\s*\\?\n\s*/g, ' ');
    state.write(' ');
  });
  state.write('|\n');
}

const writer = new MarkdownSerializer({
  ...defaultMarkdownSerializer.nodes,
  formula: (state, node) => { state.text(`$${node.textContent}$`, false); },
  table: (state, node) => {
    node.forEach((row, _, i) => {
      writeRow(state, row);
      if (i === 0) state.write(`${'| --- '.repeat(row.childCount)}|\n`);
    });
    state.closeBlock(node);
  },
}, { ...defaultMarkdownSerializer.marks, strike: { open: '~~', close: '~~', mixable: true, expelEnclosingWhitespace: true } });

/** @param {string} text @returns {Node} */
export function read(text) { return parser.parse(text) ?? schema.topNodeType.createAndFill() ?? schema.node('doc'); }

/** @param {Node} doc */
export function written(doc) { return writer.serialize(doc, { tightLists: true }).trim(); }

/** Whether a text comes out of the editor as it went in, but for how it is laid out: what the editor
 * does not know is not to be lost. @param {string} text */
export function keeps(text) {
  if (/!\[[^\]]*\]\(/.test(text) || /<[a-z!/]/i.test(text)) return false; // pictures and raw markup
  const once = written(read(text));
  return written(read(once)) === once;
}
