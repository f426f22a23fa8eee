// Texts with places and plural forms, and what a control's operations are filled with.
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { bell } from '../testing/page.js';

const { speak, t } = await import('../../web/js/sync/messages.js');
const { filled } = await import('../../web/js/commands/carried.js');

test('places are filled in their order, or as a language wants them', () => {
  speak({ 'From %s to %s': { reads: '%[2]s kommt von %[1]s' } }, 'de');
  assert.equal(t('From %s to %s', 'a', 'b'), 'b kommt von a');
  assert.equal(t('100 %% of %s', '%s'), '100 % of %s', 'what stands in a place is no pattern');
  assert.equal(t('Not in %s', undefined), 'Not in ');
  assert.equal(t('%s and %s', 'one'), 'one and ');
});

test('what is counted has the form of its number in its language', () => {
  const concepts = { 'There are %d concepts.': { forms: { one: 'Jest %d pojęcie.', few: 'Są %d pojęcia.', many: 'Jest %d pojęć.', other: 'Jest %d pojęcia.' } } };
  speak(concepts, 'pl');
  assert.deepEqual([1, 3, 5, 22].map((n) => t('There are %d concepts.', n)), ['Jest 1 pojęcie.', 'Są 3 pojęcia.', 'Jest 5 pojęć.', 'Są 22 pojęcia.']);
  speak({}, 'en');
  assert.equal(t('There are %d concepts.', 1), 'There are 1 concepts.', 'without the catalogue the key is said');
});

test('a control is filled with what is selected, and with ids of new things', () => {
  const app = bell();
  const steps = JSON.stringify([{ do: 'add-kind', id: '@k1', name: '@value' }, { do: 'assign-kind', concepts: '@chosen', kind: '@k1', deep: [{ below: '@below' }] }]);
  assert.equal(filled(app, steps, { value: 'metal' }), null, 'nothing is selected');
  app.chosen.set(['c-rim', 'l-has']);
  const [kind, assigned] = filled(app, steps, { value: '@chosen' });
  assert.equal(kind.name, '@chosen', 'what was typed is words, whatever it says');
  assert.match(kind.id, /^k/);
  assert.deepEqual(assigned, { do: 'assign-kind', concepts: ['rim'], kind: kind.id, deep: [{ below: false }] });
  assert.notEqual(filled(app, steps, {})[0].id, kind.id, 'each time its own');
  assert.deepEqual(filled(app, '[{"do":"reverse-link","link":"@links"}]')[0].link, ['has']);
});
