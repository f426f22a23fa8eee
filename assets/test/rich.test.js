// What is written large is kept as CommonMark: texts come out of the editor as they went in.
import assert from 'node:assert/strict';
import test from 'node:test';
import { keeps, read, written } from '../../web/static/js/editor.js';

test('texts come back as they went in', () => {
  for (const text of [
    'The *ringer* pulls, and **the bell** sounds.', '# Heading\n\n## Smaller', '* one\n* two\n  * deeper', '1. first\n2. second', '> said\n>\n> again',
    'A [link](https://hollin.example/bells) and ~~not this~~.', 'At $f = v/lambda$ it hums: $x_1$ and $x_2$.', '| part | of |\n| --- | --- |\n| rim | *bronze* |', '```\nverbatim * text\n```', 'a line\\\nbroken', '',
  ]) {
    assert.equal(written(read(text)), text);
    assert.ok(keeps(text), text);
  }
});

test('what looks like a mark and is none stays so', () => {
  for (const text of ['2 * 3 * 4 and a_b_c', '5 dollars: $5 and $6', 'x < y', '[not a link]', '- ', '| alone', 'back \\* slash']) {
    const once = written(read(text));
    assert.deepEqual(read(once).toJSON(), read(text).toJSON(), text);
  }
});

test('what the editor does not know is not opened in it', () => {
  for (const text of ['![a bell](https://hollin.example/bell.png)', '<b>raw</b> markup', 'a <!-- remark -->']) assert.ok(!keeps(text), text);
});
