interface Window {
  Alpine: { data(name: string, make: () => object): void };
  htmx: { process(el: Element): void; swap(what: { text: string; target: Element; sourceElement: Element; swap: string }): Promise<void> };
}
