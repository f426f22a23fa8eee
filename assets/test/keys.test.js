// What each key of the paper does, by what is selected.
import assert from 'node:assert/strict';
import { beforeEach, mock, test } from 'node:test';
import { bell } from '../testing/page.js';

const { listenToKeys } = await import('../../web/js/commands/keys.js');

let app;
const begin = (chosen = [], own = {}) => {
  app = bell(own);
  listenToKeys(app);
  app.chosen.set(chosen);
  return app;
};
/** Presses a key on the paper; whether the page took it. */
const press = (key, more = {}) => !app.desk.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
const ctrl = { ctrlKey: true }, shift = { ctrlKey: true, shiftKey: true };

beforeEach(() => { mock.timers.reset(); mock.timers.enable({ apis: ['setTimeout'] }); });

for (const [chosen, key, more, want] of [
  [[], 'z', ctrl, ['back', 'undo']], [[], 'Z', shift, ['back', 'redo']], [[], 'y', ctrl, ['back', 'redo']], [[], 'z', { metaKey: true }, ['back', 'undo']],
  [['c-rim'], 'd', ctrl, ['do', 'duplicate']], [['c-rim'], 'm', ctrl, ['do', 'merge']], [['c-rim'], 'Enter', ctrl, ['do', 'add-stop']], [['c-rim'], '.', ctrl, ['aim.open', 'rim']],
  [['c-rim'], 'ArrowUp', shift, ['do', 'tuck']], [['l-has'], 'ArrowRight', shift, ['do', 'heads-next']], [['l-has'], 'ArrowLeft', shift, ['do', 'reverse']],
  [['c-rim'], 'Delete', {}, ['do', 'remove']], [['l-has'], 'Backspace', {}, ['do', 'remove']], [['c-rim'], 'Home', {}, ['do', 'fit-chosen']],
  [[], 'f', {}, ['do', 'fit']], [[], '/', {}, ['do', 'find']], [[], '+', {}, ['view.zoom', 1.25]], [[], '3', {}, ['tuck.see', { level: 3 }]], [[], 'ArrowRight', {}, ['view.pan', -60, -0]],
]) {
  test(`${[...chosen, Object.keys(more).join('+'), key].filter(Boolean).join(' ')}`, () => {
    begin(chosen);
    assert.equal(press(key, more), true);
    assert.deepEqual(app.done.find(([name]) => name === want[0]), want);
    assert.deepEqual(app.sent, []);
  });
}

test('with one concept selected a letter opens its words, and goes into the field itself', () => {
  begin(['c-rim']);
  assert.equal(press('x'), false, 'the browser types it');
  const [, asked] = app.done.find(([name]) => name === 'words.open');
  assert.deepEqual([asked.value, asked.all, asked.voice], ['the rim', true, 'noun']);
});

test('what is being composed, and keys in fields, are none of the paper', () => {
  begin(['c-rim']);
  assert.equal(press('Delete', { isComposing: true }), false);
  const field = app.desk.appendChild(document.createElement('input'));
  field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Delete', bubbles: true, cancelable: true }));
  assert.deepEqual(app.done, []);
});

test('arrows go to the neighbour that lies there; Ctrl+arrows change level and rank', () => {
  begin(['c-rim']);
  press('ArrowRight');
  assert.deepEqual(app.chosen.list, ['c-crown']);
  press('ArrowUp');
  assert.deepEqual(app.chosen.list, ['c-bell']);
  app.chosen.set(['c-crown']);
  press('ArrowLeft', ctrl);
  press('ArrowDown', ctrl);
  assert.deepEqual(app.sent.map(([op]) => [op.do, op.concept, op.step ?? op.way]), [['step-rank', 'crown', -1], ['shift-level', 'crown', 'down']]);
});

test('presses of Shift and an arrow are one move, sent when the hand rests or does something else', () => {
  begin(['c-rim', 'c-crown']);
  for (let i = 0; i < 3; i++) press('ArrowRight', { shiftKey: true });
  press('ArrowDown', { shiftKey: true });
  assert.deepEqual(app.sent, []);
  mock.timers.tick(400);
  assert.deepEqual(app.sent, [[{ do: 'move', places: { rim: { x: 74, y: 208 }, crown: { x: 274, y: 208 } } }]]);
  press('ArrowLeft', { shiftKey: true });
  press('z', ctrl);
  assert.equal(app.sent.length, 2, 'it is on its way before it is taken back');
  assert.deepEqual(app.done.at(-1), ['back', 'undo']);
});

test('Escape lets go of the selection, then of the paper', () => {
  begin(['c-rim']);
  press('Escape');
  assert.deepEqual(app.chosen.list, []);
  assert.equal(document.activeElement, app.desk);
  press('Escape');
  assert.equal(document.activeElement, document.body);
});

test('while a pattern is tried out, Enter takes it and Escape leaves it', () => {
  begin(['c-rim'], {});
  app.tidy.on = true;
  press('Enter');
  press('Escape');
  assert.deepEqual(app.done, [['tidy.take'], ['tidy.leave']]);
});

test('the plain hand has no keys for what it does not offer', () => {
  begin(['c-rim'], { plain: true });
  for (const key of ['d', 'm', 'b', 'Enter', '.']) assert.equal(press(key, ctrl), false, key);
  assert.deepEqual(app.done, []);
  assert.equal(press('z', ctrl), true);
});
