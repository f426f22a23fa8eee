// @ts-check
// What fields may hold. Made of web/limits.go by `make assets`; change it there.

export const limits = {
  "address": 2000,
  "cell": 200,
  "columns": 12,
  "comment": 4000,
  "fileBytes": 26214400,
  "filterValue": 200,
  "folderName": 80,
  "kindName": 60,
  "label": 400,
  "mail": 200,
  "note": 20000,
  "password": 200,
  "passwordLeast": 10,
  "personName": 80,
  "phrase": 200,
  "question": 400,
  "remark": 160,
  "rows": 60,
  "seats": 10000,
  "sourceName": 200,
  "sourceSays": 1000,
  "speaker": 60,
  "taskWords": 200,
  "title": 200,
  "version": 80,
  "who": 80
};

/** The arrowheads that a link can have, in the order in which one follows the other.
 * @type {Wire.Heads[]} */
export const heads = ["one","both","none"];

/** The phrase that a line holds before its concept, and the concept. */
export const phraseBefore = /^\s*([^\s:][\s\S]*?)\s*:\s+(\S[\s\S]*?)\s*$/;
