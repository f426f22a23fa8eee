// @ts-check
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { restOf } from '../../web/js/panels/sheets.js';

test('a sheet comes to rest at the nearest of its heights, or goes', () => {
  assert.deepEqual([0.05, 0.3, 0.45, 0.6, 0.8, 1].map(restOf), [0, 0.34, 0.52, 0.52, 0.92, 0.92]);
});
