// Builds everything under web/static and draw/face/files that is not written by
// hand, from what package-lock.json pins. The same input gives the same bytes:
// `node build.mjs DIR` writes below DIR instead of the repository, and a test
// compares the two.
import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildSync } from 'esbuild';

const here = dirname(fileURLToPath(import.meta.url));
const root = resolve(here, '..');
const out = resolve(process.argv[2] ?? root);
const modules = join(here, 'node_modules');

const fresh = (path) => { rmSync(path, { recursive: true, force: true }); mkdirSync(path, { recursive: true }); return path; };

// The fonts, in the order in which a character looks for a face: the first
// family that has it. Each is taken in the slices that its publisher cut.
const families = [
  { family: 'Atkinson Hyperlegible', pack: 'atkinson-hyperlegible', styles: [[400, 'normal'], [700, 'normal'], [400, 'italic'], [700, 'italic']] },
  { family: 'Source Serif 4', pack: 'source-serif-4', styles: [[400, 'italic']] },
  { family: 'Noto Sans', pack: 'noto-sans', styles: [[400, 'normal']], skip: ['devanagari', 'latin'] },
  { family: 'Noto Sans Arabic', pack: 'noto-sans-arabic', styles: [[400, 'normal']], only: ['arabic'] },
  { family: 'Open Sans', pack: 'open-sans', styles: [[400, 'normal']], only: ['math'] },
  { family: 'Noto Sans Symbols', pack: 'noto-sans-symbols', styles: [[400, 'normal']], only: ['symbols'] },
  { family: 'Noto Sans SC', pack: 'noto-sans-sc', styles: [[400, 'normal']], skip: ['latin', 'latin-ext', 'vietnamese', 'cyrillic'] },
];

const fonts = fresh(join(out, 'draw/face/files'));
const licences = fresh(join(out, 'licences'));
const faces = [];
for (const { family, pack, styles, skip = [], only } of families) {
  const from = join(modules, '@fontsource', pack);
  const ranges = JSON.parse(readFileSync(join(from, 'unicode.json')));
  for (const [weight, style] of styles) {
    for (const [subset, range] of Object.entries(ranges)) {
      const slice = subset.replace(/[[\]]/g, '');
      if (skip.includes(slice) || (only && !only.includes(slice))) continue;
      const file = `${pack}-${slice}-${weight}-${style}.woff`;
      cpSync(join(from, 'files', file), join(fonts, file));
      faces.push({ family, weight, style, file, range });
    }
  }
  cpSync(join(from, 'LICENSE'), join(licences, `${pack}.txt`));
}
writeFileSync(join(fonts, 'faces.json'), '[\n' + faces.map((f) => JSON.stringify(f)).join(',\n') + '\n]\n');

const vendor = fresh(join(out, 'web/static/vendor'));
for (const [pack, file, name, licence] of [
  ['htmx.org', 'dist/htmx.min.js', 'htmx.min.js', 'LICENSE'],
  ['@alpinejs/csp', 'dist/cdn.min.js', 'alpine-csp.min.js', null],
]) {
  // A source map is not shipped, so its mention goes too.
  writeFileSync(join(vendor, name), readFileSync(join(modules, pack, file), 'utf8').replace(/\n?\/\/# sourceMappingURL=.*\s*$/, '\n'));
  const to = join(licences, name.replace(/\.min\.js$/, '.txt'));
  const version = JSON.parse(readFileSync(join(modules, pack, 'package.json')));
  if (licence) cpSync(join(modules, pack, licence), to);
  else cpSync(join(here, 'licence-alpine.txt'), to);
  if (!version.license) throw new Error(`${pack} names no licence`);
}

const icons = ['folder', 'folder-plus', 'folder-minus', 'folder-input', 'layout-template', 'globe', 'lightbulb', 'hand', 'log-in', 'log-out', 'mail', 'circle-user', 'user-plus', 'users', 'qr-code', 'history', 'sparkles', 'keyboard', 'text-cursor-input', 'scan', 'notebook-pen', 'workflow', 'volume-2', 'message-circle', 'thumbs-up', 'thumbs-down', 'pin', 'align-start-vertical', 'align-center-vertical', 'align-end-vertical', 'align-start-horizontal', 'align-center-horizontal', 'align-end-horizontal', 'align-horizontal-space-around', 'align-vertical-space-around', 'stretch-horizontal', 'unfold-horizontal', 'fold-horizontal', 'grid-3x3', 'move', 'palette', 'shapes', 'move-up-right', 'circle-plus', 'undo-2', 'redo-2', 'plus', 'minus', 'maximize', 'trash-2', 'arrow-right', 'arrow-left-right', 'arrow-left',
  'pencil', 'repeat-2', 'circle-help', 'crosshair', 'panel-right', 'check', 'x', 'corner-down-right', 'spline', 'scan-search', 'copy-plus', 'panel-left',
  'ellipsis', 'download', 'upload', 'archive-restore', 'arrow-up', 'arrow-down', 'play', 'link', 'copy', 'list', 'merge', 'split', 'network',
  'bold', 'italic', 'align-left', 'align-center', 'align-right', 'a-arrow-up', 'a-arrow-down', 'chevrons-down-up', 'chevrons-up-down', 'map', 'square-plus',
  'rotate-ccw', 'replace', 'mouse-pointer-click', 'square-dashed-mouse-pointer', 'focus', 'navigation', 'scissors', 'search', 'waypoints', 'flag', 'expand', 'arrow-down-a-z', 'tag', 'image', 'film', 'paperclip', 'quote', 'camera', 'table', 'layers', 'users', 'list-checks', 'route', 'bookmark', 'award', 'moon', 'monitor', 'zoom-in', 'flashlight', 'timer', 'footprints', 'unlink', 'eye-off', 'eye', 'heading', 'list-ordered', 'sigma', 'printer'];
const known = new Set(readdirSync(join(modules, 'lucide-static/icons')));
const symbols = icons.filter((i) => known.has(`${i}.svg`)).map((name) => {
  const svg = readFileSync(join(modules, 'lucide-static/icons', `${name}.svg`), 'utf8');
  const body = svg.replace(/[\s\S]*?<svg[^>]*>/, '').replace('</svg>', '').trim().replace(/\s*\n\s*/g, '');
  return `<symbol id="${name}" viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="2" stroke-linecap="round" stroke-linejoin="round">${body}</symbol>`;
});
writeFileSync(join(out, 'web/static/icons.svg'), `<svg xmlns="http://www.w3.org/2000/svg">\n${symbols.join('\n')}\n</svg>\n`);
cpSync(join(modules, 'lucide-static/LICENSE'), join(licences, 'lucide-icons.txt'));

// The icons that stand on slips: by group, each with words to find it by.
const pictures = {
  'sound and hearing': 'bell bell-ring bell-off ear ear-off music music-2 audio-lines audio-waveform volume-2 mic headphones drum guitar piano megaphone',
  'people': 'user users baby person-standing speech hand heart eye brain footprints handshake thumbs-up thumbs-down graduation-cap',
  'craft': 'hammer wrench drill factory anvil flame flame-kindling thermometer scale ruler pencil pen-tool brush scissors cooking-pot gavel',
  'nature and matter': 'snowflake droplet droplets waves wind cloud cloud-rain sun moon zap magnet atom dna leaf tree-deciduous tree-pine sprout flower wheat apple egg mountain gem weight',
  'animals': 'cat dog bird fish rabbit turtle squirrel bug paw-print',
  'places and ways': 'globe earth map map-pin compass church school house building landmark tent signpost milestone route train-front bus car bike ship plane rocket anchor',
  'science': 'microscope telescope flask-conical test-tube beaker calculator sigma pi hash percent infinity activity gauge trending-up trending-down spline',
  'time and order': 'clock hourglass timer alarm-clock calendar history play pause repeat rotate-cw refresh-cw list-checks arrow-up arrow-down arrow-right arrow-left split workflow network',
  'thinking': 'lightbulb puzzle key lock shield flag target book book-open bookmark notebook-pen scroll newspaper quote message-circle circle-help search gift trophy award medal star coins',
  'marks': 'circle-check circle-x circle-alert triangle-alert info ban triangle circle square shapes box boxes layers palette camera image video film paperclip file file-text link table',
};
const words = JSON.parse(readFileSync(join(modules, 'lucide-static/tags.json')));
const shapes = Object.entries(pictures).flatMap(([group, names]) => names.split(' ').map((name) => {
  const svg = readFileSync(join(modules, 'lucide-static/icons', `${name}.svg`), 'utf8');
  return { name, group, words: [...name.split('-').filter((w) => !/^\d/.test(w)), ...(words[name] ?? [])].join(' '), body: svg.replace(/[\s\S]*?<svg[^>]*>/, '').replace('</svg>', '').trim().replace(/\s*\n\s*/g, '').replaceAll(' />', '/>') };
}));
mkdirSync(join(out, 'draw/icon'), { recursive: true });
writeFileSync(join(out, 'draw/icon/icons.json'), '[\n' + shapes.map((s) => JSON.stringify(s)).join(',\n') + '\n]\n');

execFileSync(join(modules, '.bin/tailwindcss'), ['-i', join(here, 'app.css'), '-o', join(out, 'web/static/app.css'), '--minify'], { cwd: here, stdio: ['ignore', 'ignore', 'inherit'] });

// The scripts of each page in one file: a page of sixty modules asks sixty times. What runs
// before the page is there (the state of panels, for Alpine) is no module.
const scripts = { bundle: true, minify: true, target: 'es2022', outdir: fresh(join(out, 'web/static/js')), outbase: join(root, 'web/js'), legalComments: 'none', logLevel: 'error' };
buildSync({ ...scripts, format: 'esm', entryPoints: ['main', 'library', 'walk', 'judge', 'desk', 'room', 'export', 'import', 'versions', 'report', 'questions', 'suggestions'].map((name) => join(root, 'web/js/pages', `${name}.js`)), entryNames: '[name]' });
buildSync({ ...scripts, format: 'esm', nodePaths: [modules], entryPoints: [join(root, 'web/js/rich/editor.js')], entryNames: '[name]' });
for (const pack of ['prosemirror-view', 'markdown-it']) cpSync(join(modules, pack, 'LICENSE'), join(licences, `${pack}.txt`));
buildSync({ ...scripts, format: 'iife', entryPoints: [join(root, 'web/js/panels/state.js')], entryNames: '[name]' });
