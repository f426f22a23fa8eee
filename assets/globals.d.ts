/** What the page shows around the paper. */
interface PageState { margin: boolean; column: boolean; phase: string; found: number; saved: string; trouble: boolean; undo: boolean; redo: boolean; reading: boolean; scale: string; hints: string; finding: boolean; talking: boolean; colours: boolean; kept: boolean; sheet: string; said: string; picking: string; trial: string; tried: boolean; lens: { title: string; says: string } | null }
/** What this viewer has switched on or off. */
interface Settings { branch: boolean; snap: boolean; grid: boolean; below: boolean; hints: boolean; overview: boolean; several: boolean; frame: boolean; names: boolean; talked: boolean; toggle(name: string): void }
/** A line of the menu: what it does, its icon, its words and its key. */
interface MenuItem { deed: string; kind: string; icon: string; words: string; key: string }
/** Something said in passing, with what can be done about it. */
interface Notice { id: number; words: string; offer: string; fault: boolean; stays: boolean; act(): void; put(): void }

/** What Alpine gives to a component. */
interface Component { $el: HTMLElement; $root: HTMLElement; $refs: Record<string, HTMLElement>; $nextTick(then: () => void): void }

interface Window {
  Alpine: {
    data<T>(name: string, make: () => T & ThisType<T & Component>): void;
    store<T extends object>(name: string, made: T & ThisType<T>): void;
    store(name: 'page'): PageState;
    store(name: 'settings'): Settings;
    store(name: 'menu'): { open: boolean; items: MenuItem[] };
    store(name: 'notices'): { all: Notice[]; add(notice: Notice): void; remove(id: number): void };
    nextTick(): Promise<void>;
  };
  htmx: { process(el: Element): void; registerExtension(name: string, hooks: { htmx_before_morph_attr(on: Element, detail: { attrName: string }): boolean }): void };
}
