// @ts-check
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { keyNames } from '../../web/js/panels/key-names.js';

test('keys are called as the keyboard calls them', () => {
  assert.equal(keyNames('Undo (Ctrl+Z)', true), 'Undo (⌘+Z)');
  assert.equal(keyNames('Ctrl+K: link in order · Ctrl+Shift+↓', true), '⌘+K: link in order · ⌘+Shift+↓');
  assert.equal(keyNames('or hold Ctrl', true), 'or hold Command');
  assert.equal(keyNames('Undo (Ctrl+Z)', false), 'Undo (Ctrl+Z)');
});
