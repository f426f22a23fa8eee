interface Window {
  Alpine: { data(name: string, make: () => object): void };
  htmx: { ajax(verb: string, path: string, options: { target: string; swap: string }): Promise<void>; swap(what: { text: string; target: Element; sourceElement: Element; swap: string }): Promise<void> };
}
