// The parts of the page around the paper that are no drawing: the heading.
document.addEventListener('alpine:init', () => {
  window.Alpine.data('heading', () => ({
    question: '',
    title: '',
    editing: false,
    init() {
      this.question = this.$el.dataset.question;
      this.title = this.$el.dataset.title;
      window.addEventListener('mevrin:head', (e) => {
        this.question = e.detail.question;
        this.title = e.detail.title;
      });
      window.addEventListener('mevrin:ask', () => this.edit());
    },
    edit() {
      this.editing = true;
      this.$refs.field.value = this.question;
      this.$nextTick(() => { this.$refs.field.focus(); this.$refs.field.select(); });
    },
    done() {
      if (!this.editing) return;
      this.editing = false;
      const words = this.$refs.field.value.trim();
      if (words === this.question) return;
      this.question = words;
      window.dispatchEvent(new CustomEvent('mevrin:asked', { detail: words }));
    },
    cancel() { this.editing = false; },
  }));
});
