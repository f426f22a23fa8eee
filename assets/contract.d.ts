// What page and server tell each other. Made of Go by `make assets`; change it there.

declare namespace Wire {
/** One thing that a person meant, as it is sent. */
type Operation =
  | { do: 'add-comment'; id: string; on?: Key; answers?: string; name?: string; words: string; asks?: boolean }
  | { do: 'add-concept'; id: string; lang?: string; label?: string; at: Point; makeRoom?: boolean; hand?: boolean; reuse?: boolean; shorten?: boolean }
  | { do: 'add-end'; link: string; side: string; end: End }
  | { do: 'add-icon'; concepts: string[]; icon: string }
  | { do: 'add-kind'; id: string; lang?: string; name: string; colour?: Colour; outline?: Outline; icon?: string; links?: boolean; stroke?: Stroke; meaning?: string; role?: string; reuse?: boolean }
  | { do: 'add-link'; id: string; from: End[]; to: End[]; heads?: Heads; lang?: string; phrase?: string; shorten?: boolean }
  | { do: 'add-region'; id: string; lang?: string; title?: string; concepts?: string[]; branches?: string[]; colour?: Colour; stroke?: Stroke; filled?: boolean }
  | { do: 'add-requirement'; id: string; demand: Demand }
  | { do: 'add-route'; id: string; lang?: string; title?: string }
  | { do: 'add-sibling'; concept: string; lang?: string; label: string; phrase?: string; share?: boolean; beside: string; shorten?: boolean; link: string; own: string; above: string }
  | { do: 'add-stop'; id: string; route: string; after?: string; refs?: Key[] }
  | { do: 'add-tag'; id: string; lang?: string; name: string; colour?: Colour; reuse?: boolean }
  | { do: 'ask'; lang?: string; question: string }
  | { do: 'assign-kind'; concepts?: string[]; links?: string[]; kind: string }
  | { do: 'assign-tag'; concepts: string[]; tag: string; on: boolean }
  | { do: 'attach-source'; on: Key; id: string; url?: string; title?: string; file?: File; cite?: Citation; says?: string; licence?: string; wide?: number; rank?: string }
  | { do: 'bend'; link: string; end: string; bends: Point[] }
  | { do: 'change-comment'; comment: string; words?: string }
  | { do: 'change-requirement'; requirement: string; demand: Demand }
  | { do: 'colour-level'; level: number; colour?: Colour }
  | { do: 'copy-stop'; stop: string; id: string }
  | { do: 'detach-source'; on: Key; id: string }
  | { do: 'dismiss-finding'; id: string; rule: string; on?: Key[]; reason?: string; name?: string }
  | { do: 'drop-mend'; stop: string; id: string }
  | { do: 'drop-rater'; rater: string }
  | { do: 'duplicate'; concepts: string[]; as: Record<string, string>; by: Point }
  | { do: 'forget-speaker' }
  | { do: 'free-lines'; links: string[] }
  | { do: 'grade'; id: string; criterion: string; level?: number; reason?: string }
  | { do: 'hang'; concept: string; below: string; after?: string; link: string; own: string; parent: string }
  | { do: 'insert-concept'; link: string; end: string; concept: string; lang?: string; label: string; at: Point; into: string; new: string; newFrom: string; newTo: string; phrase?: string }
  | { do: 'jot'; concept: string; words: string; lang?: string; at: Point; under?: string; link?: string; own?: string; above?: string }
  | { do: 'judge'; id: string; strand: Strand; against?: boolean; verdict?: Verdict; points?: number; reason?: string; source?: string; name?: string; settled?: boolean }
  | { do: 'keep-apart'; a: string; b: string; apart: boolean }
  | { do: 'keep-order'; concepts: string[]; on: boolean }
  | { do: 'keep-tidy'; on: boolean; pattern?: Pattern; freely?: boolean }
  | { do: 'lead-on'; stop: string; then?: string }
  | { do: 'line-up'; concepts: string[]; way: string }
  | { do: 'make-room'; concepts: string[] }
  | { do: 'merge-concepts'; keep: string; gone: string }
  | { do: 'merge-kinds'; keep: string; gone: string }
  | { do: 'merge-links'; keep: string; gone: string }
  | { do: 'move'; places: Record<string, Point> }
  | { do: 'move-end'; link: string; old: string; end: End }
  | { do: 'move-requirement'; requirement: string; after?: string }
  | { do: 'move-stop'; stop: string; after?: string }
  | { do: 'name-concept'; concept: string; lang?: string; label: string; shorten?: boolean }
  | { do: 'name-link'; link: string; lang?: string; phrase: string; shorten?: boolean }
  | { do: 'name-map'; lang?: string; title: string }
  | { do: 'name-route'; route: string; lang?: string; title: string }
  | { do: 'note-mend'; stop: string; id: string; words?: string }
  | { do: 'number-steps'; concepts: string[]; from: number }
  | { do: 'offer-choice'; stop: string; id: string; lang?: string; words?: string; to?: string }
  | { do: 'order-kinds'; order: string[] }
  | { do: 'paste'; document: unknown; as: Record<string, string>; by: Point }
  | { do: 'pin'; concepts: string[]; on: boolean }
  | { do: 'place-key'; at?: Point; folded?: boolean; away?: boolean }
  | { do: 'place-phrase'; link: string; along?: number; hub?: Point }
  | { do: 'place-source'; from: Key; id: string; to: Key }
  | { do: 'plan-route'; route: string; lang?: string; purpose?: string; audience?: string; minutes?: number; language?: string; together?: boolean; around?: boolean }
  | { do: 'plan-stop'; stop: string; minutes?: number; layout?: Layout; fromMap?: boolean; distance?: Distance; fades?: boolean; oneByOne?: boolean; branches?: boolean; skipped?: boolean }
  | { do: 'put-in-region'; region: string; concepts?: string[]; branches?: string[]; in: boolean }
  | { do: 'rank-concept'; concept: string; after?: string }
  | { do: 'recall-finding'; dismissal: string }
  | { do: 'rehearsed'; route: string; took: Record<string, number> }
  | { do: 'remove'; concepts?: string[]; links?: string[] }
  | { do: 'remove-end'; link: string; end: string }
  | { do: 'remove-filter'; filter: string }
  | { do: 'remove-kind'; kind: string }
  | { do: 'remove-region'; region: string }
  | { do: 'remove-requirement'; requirement: string }
  | { do: 'remove-route'; route: string }
  | { do: 'remove-stop'; stop: string }
  | { do: 'remove-tag'; tag: string }
  | { do: 'reverse-link'; link: string }
  | { do: 'save-filter'; id: string; lang?: string; name: string; match: Match; conditions: Condition[]; hide?: boolean }
  | { do: 'say'; link: string; from: Term[]; phrase: string; to: Term[]; lang?: string; at: Point }
  | { do: 'second-link'; link: string; new: string }
  | { do: 'set-amount'; concept: string; amount: string }
  | { do: 'set-duration'; concept: string; lasts: string }
  | { do: 'set-focus'; concept: string }
  | { do: 'set-hand'; hand: Hand }
  | { do: 'set-heads'; link: string; heads: Heads }
  | { do: 'set-icons'; concepts: string[]; icons: string[] }
  | { do: 'set-judging'; open: boolean }
  | { do: 'set-kind'; kind: string; lang?: string; name?: string; meaning?: string; colour?: Colour; outline?: Outline; icon?: string; stroke?: Stroke; role?: string }
  | { do: 'set-language'; language: string }
  | { do: 'set-line'; links: string[]; line: Line }
  | { do: 'set-look'; plain?: boolean; dress?: Theme; own?: OwnColours; paper?: Paper; picture?: Backdrop; line?: Line; large?: boolean; by?: ColourBy }
  | { do: 'set-main'; concept: string; strand: Strand }
  | { do: 'set-note'; on: Key; lang?: string; note: string; append?: boolean }
  | { do: 'set-note-card'; on: Key; colour?: Colour; off?: Point; free?: boolean }
  | { do: 'set-opening'; tucked: string[] }
  | { do: 'set-order'; parent: string; order: string[] }
  | { do: 'set-paint'; concepts: string[]; clear?: boolean; words?: Colour; fill?: Colour; border?: Colour; outline?: Outline; below?: boolean }
  | { do: 'set-region'; region: string; lang?: string; title?: string; note?: string; colour?: Colour; stroke?: Stroke; filled?: boolean }
  | { do: 'set-remark'; concept: string; lang?: string; remark: string }
  | { do: 'set-rubric'; rubric: Rubric }
  | { do: 'set-rule'; rule: string; on: boolean }
  | { do: 'set-rule-least'; rule: string; least: number | null }
  | { do: 'set-source'; on: Key; id: string; title?: string; says?: string; licence?: string; wide?: number }
  | { do: 'set-table'; concept: string; table: Table | null }
  | { do: 'set-tag'; tag: string; lang?: string; name?: string; colour?: Colour }
  | { do: 'set-task'; concept: string; what?: string; who?: string; when?: string; lasts?: string; done?: boolean; none?: boolean }
  | { do: 'set-type'; concepts: string[]; size?: number; bold?: boolean; italic?: boolean; align?: Align; width?: number }
  | { do: 'set-when'; concept: string; when: string }
  | { do: 'settle-comment'; comment: string; settled: boolean }
  | { do: 'shift'; concepts: string[]; by: Point }
  | { do: 'shift-level'; concept: string; way: string; link: string; own: string; parent: string }
  | { do: 'show-at-stop'; stop: string; refs: Key[] }
  | { do: 'split-concept'; concept: string; new: string; lang?: string; label: string; at: Point; ends?: EndAt[] }
  | { do: 'split-end'; link: string; end: string; new: string }
  | { do: 'step-rank'; concept: string; step: number }
  | { do: 'stretch'; concept: string; by: number }
  | { do: 'take-brief'; id: string; title?: string; task?: string; before?: Known[]; lines?: Demand[] }
  | { do: 'take-text'; on: string; words: string; lang?: string; quote?: boolean; source: string; concept: string; link: string; own: string; above: string; at: Point }
  | { do: 'tick-mend'; stop: string; id: string; done: boolean }
  | { do: 'tidy'; pattern?: Pattern; branch?: string; freely?: boolean; hand?: boolean }
  | { do: 'vote'; concept: string; for: boolean | null }
  | { do: 'write-brief'; title?: string; task?: string; before?: Known[] }
  | { do: 'write-stop'; stop: string; part: string; lang?: string; words: string };

type About = 'kind' | 'tag' | 'region' | 'branch' | 'level' | 'words' | 'has';

type Align = '' | 'left' | 'right';

interface Answer { entry: string; revision: number; slips?: Record<string, string>; links?: Record<string, string>; gone?: string[]; whole?: boolean; head: Head; notices?: string[]; moved?: Moved[]; glide?: boolean; undo: boolean; redo: boolean }

interface Asked { id: string; window: string; seen: number; operations?: Operation[]; back?: string }

interface AskedView { window: string; tuck: string[]; bring: string[]; show: string[]; level: number; all: boolean }

interface Attained { points: number; words: string }

interface Backdrop { file: File; at: Point; wide: number }

interface Band { level: number; x: number; y: number; w: number; h: number }

interface BriefCount { met: number; of: number; lines: LineCount[] }

interface Citation { author?: string; year?: string; title: string; place?: string }

type Colour = '' | 'sky' | 'straw' | 'sea' | 'rose' | 'leaf' | 'iron' | 'plum' | 'clay';

type ColourBy = '' | 'branch' | 'level' | 'tag';

interface Condition { about: About; value?: string; not?: boolean }

type Countable = 'concepts' | 'links' | 'propositions' | 'cross-links' | 'levels' | 'branches' | 'sources' | 'notes' | 'pictures' | 'examples' | 'stops' | 'judged-to-hold' | 'required';

interface Criterion { id: string; title: string; levels: Attained[] }

interface Demand { says?: string; step?: Step; points?: number; atLeast?: number; atMost?: number; of: Countable; kind?: string; tag?: string; region?: string; level?: number; source?: string; where?: Where; words?: Words; must?: Must[] }

type Distance = '' | 'close' | 'all';

interface End { id: string; concept: string }

interface EndAt { link: string; end: string }

type Entity = 'concept' | 'link' | 'region' | 'map' | 'stop';

interface Event { revision: number; window: string; view?: boolean; overtook?: Overtaken[]; chosen?: string[]; here?: Seat[]; spot?: unknown }

interface File { hash: string; type: string; size: number; w?: number; h?: number }

interface Filter { id: string; name?: Record<string, string>; match: Match; conditions?: Condition[]; hide?: boolean; rank: string }

type Hand = '' | 'plain';

interface Head { title: string; question: string; axis: string; regions: string; key: string; look: string; own?: string; kinds: KindBrief[]; kept: boolean; grows: string; brief?: BriefCount }

type Heads = 'one' | 'both' | 'none';

interface Key { kind: Entity; id: string }

interface KindBrief { id: string; name: string; links?: boolean }

interface Known { words: string; address?: string }

type Layout = '' | 'picture' | 'text' | 'map';

interface Lens { title: string; says: string; keep?: string[]; hide?: boolean; tints?: Record<string, number>; numbers?: Record<string, string>; most?: string; bands?: Band[]; choose?: string[] }

type Line = '' | 'straight' | 'curved' | 'stepped';

interface LineCount { id: string; count: number; met: boolean }

type Match = 'all' | 'any';

interface Moved { kind: Entity; old: string; new: string; oldLink?: string; newLink?: string }

interface Must { concept: string; or?: string[]; phrase?: string; to?: string }

type Outline = '' | 'capsule' | 'lozenge' | 'ticket' | 'oval' | 'plain';

interface Overtaken { what: string; id: string }

interface OwnColours { paper: string; slip: string; ink: string }

type Paper = '' | 'lines' | 'squares' | 'dots' | 'picture';

interface Part { document: unknown; things: string[]; at: Point }

type Pattern = '' | 'levels' | 'levels-up' | 'levels-right' | 'levels-left' | 'sides' | 'rings' | 'web' | 'spine' | 'time' | 'rows';

interface Point { x: number; y: number }

interface Rubric { title?: string; source?: string; weights?: Record<string, number>; criteria?: Criterion[] }

interface Seat { window: string; name?: string; hue: number }

type Step = '' | 'first' | 'further' | 'stretch';

interface Strand { link: string; from: string; to: string }

type Stroke = '' | 'heavy' | 'dashed' | 'uneven';

interface Table { head?: boolean; rows: string[][] }

interface Term { words: string; concept: string; end: string }

type Theme = 'own' | '' | 'evening' | 'projector' | 'printer' | 'young' | 'board';

type Verdict = 'holds' | 'in-part' | 'does-not-hold' | 'not-sure';

interface Where { branch?: string; under?: string }

interface Words { contains?: string[]; begins?: string[]; list?: string }
}
