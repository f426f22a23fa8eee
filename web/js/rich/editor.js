// @ts-check
// Writes notes and cards as they will look. It is fetched when somebody first writes.

import { baseKeymap, chainCommands, exitCode, setBlockType, toggleMark, wrapIn } from 'prosemirror-commands';
import { history, redo, undo } from 'prosemirror-history';
import { inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { liftListItem, sinkListItem, splitListItem, wrapInList } from 'prosemirror-schema-list';
import { EditorState, TextSelection } from 'prosemirror-state';
import { addColumnAfter, addRowAfter, deleteColumn, deleteRow, deleteTable, goToNextCell, isInTable, tableEditing } from 'prosemirror-tables';
import { EditorView } from 'prosemirror-view';
import { keeps, read, schema, written } from './text.js';

export { keeps, read, written };

/** @typedef {import('prosemirror-state').Command} Command */

const { nodes, marks } = schema;

/** @type {Command} */
const lineBreak = chainCommands(exitCode, (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(nodes.hard_break.create()).scrollIntoView());
  return true;
});

/** @type {Command} */
const formula = (state, dispatch) => {
  const { from, to } = state.selection, words = state.doc.textBetween(from, to) || 'f = v/lambda';
  dispatch?.(state.tr.replaceSelectionWith(nodes.formula.create(null, schema.text(words)), false).scrollIntoView());
  return true;
};

/** @type {Command} */
const table = (state, dispatch) => {
  const row = (/** @type {import('prosemirror-model').NodeType} */ cell) => nodes.table_row.create(null, [cell.create(), cell.create()]);
  const { from } = state.selection, tr = state.tr.replaceSelectionWith(nodes.table.create(null, [row(nodes.table_header), row(nodes.table_cell), row(nodes.table_cell)]));
  /** @type {number | undefined} */
  let first;
  tr.doc.nodesBetween(Math.max(0, from - 1), tr.doc.content.size, (node, pos) => { if (node.type === nodes.table_header) first ??= pos; return first === undefined; });
  if (first !== undefined) tr.setSelection(TextSelection.near(tr.doc.resolve(first + 1)));
  dispatch?.(tr.scrollIntoView());
  return true;
};

/** Makes a link of what is selected, or takes it off. @param {string} address @returns {Command} */
const link = (address) => (state, dispatch, view) => {
  const { from, to, empty } = state.selection;
  if (!address) return toggleMark(marks.link)(state, dispatch, view);
  const mark = marks.link.create({ href: address });
  if (empty) dispatch?.(state.tr.insert(from, schema.text(address, [mark])));
  else dispatch?.(state.tr.removeMark(from, to, marks.link).addMark(from, to, mark));
  return true;
};

const heading = (/** @type {number} */ level) => /** @type {Command} */ ((state, dispatch, view) => setBlockType(state.selection.$from.parent.type === nodes.heading ? nodes.paragraph : nodes.heading, { level })(state, dispatch, view));

/** What buttons do, by their names. @type {Record<string, Command>} */
const commands = {
  bold: toggleMark(marks.strong), italic: toggleMark(marks.em), strike: toggleMark(marks.strike), heading: heading(2), list: wrapInList(nodes.bullet_list), numbers: wrapInList(nodes.ordered_list), quote: wrapIn(nodes.blockquote),
  table, formula, undo, redo, row: addRowAfter, column: addColumnAfter, 'row-off': deleteRow, 'column-off': deleteColumn, 'table-off': deleteTable,
};

/** Which buttons stand for what the cursor is in. @param {EditorState} state @returns {Set<string>} */
function standing(state) {
  const { from, $from, to, empty } = state.selection, on = new Set();
  for (const [name, mark] of /** @type {const} */ ([['bold', marks.strong], ['italic', marks.em], ['strike', marks.strike], ['link', marks.link]])) {
    if (empty ? mark.isInSet(state.storedMarks ?? $from.marks()) : state.doc.rangeHasMark(from, to, mark)) on.add(name);
  }
  for (let depth = $from.depth; depth > 0; depth--) {
    const name = { heading: 'heading', bullet_list: 'list', ordered_list: 'numbers', blockquote: 'quote', formula: 'formula' }[$from.node(depth).type.name];
    if (name) on.add(name);
  }
  if (isInTable(state)) on.add('table');
  return on;
}

/** Sets up an editor. @param {HTMLElement} place @param {string} text @param {{label: string, changed: (text: string) => void, moved: (on: Set<string>) => void, done: () => void}} how */
export function edit(place, text, { label, changed, moved, done }) {
  const item = nodes.list_item;
  const state = EditorState.create({
    doc: read(text),
    plugins: [
      inputRules({ rules: [wrappingInputRule(/^\s*([-+*])\s$/, nodes.bullet_list), wrappingInputRule(/^(\d+)\.\s$/, nodes.ordered_list, (m) => ({ order: Number(m[1]) })), wrappingInputRule(/^\s*>\s$/, nodes.blockquote), textblockTypeInputRule(/^(#{1,3})\s$/, nodes.heading, (m) => ({ level: m[1].length }))] }),
      keymap({
        'Mod-b': commands.bold, 'Mod-i': commands.italic, 'Mod-z': undo, 'Mod-y': redo, 'Mod-Shift-z': redo, 'Shift-Enter': lineBreak, 'Mod-Enter': () => { done(); return true; },
        Enter: splitListItem(item), Tab: chainCommands(goToNextCell(1), sinkListItem(item)), 'Shift-Tab': chainCommands(goToNextCell(-1), liftListItem(item)),
        'Mod-Shift-7': commands.numbers, 'Mod-Shift-8': commands.list,
      }),
      keymap(baseKeymap),
      history(),
      tableEditing(),
    ],
  });
  const view = new EditorView(place, {
    state,
    attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', class: 'prose rich-text' },
    dispatchTransaction(tr) {
      view.updateState(view.state.apply(tr));
      if (tr.docChanged) changed(written(view.state.doc));
      moved(standing(view.state));
    },
  });
  moved(standing(view.state));
  return {
    focus: () => view.focus(),
    /** @param {string} name */
    do: (name) => { commands[name]?.(view.state, view.dispatch, view); view.focus(); },
    /** @param {string} address */
    link: (address) => { link(address)(view.state, view.dispatch, view); view.focus(); },
    close: () => view.destroy(),
    view,
  };
}
