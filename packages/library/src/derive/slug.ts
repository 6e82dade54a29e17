/**
 * Slugs: texts as they stand in addresses. Transliterated where letters have a sound of their own; texts in signs that have many
 * give none, and the code takes their place.
 */

const signs = /\p{Script=Han}/u;

/** From a text to its slug; `""` where nothing readable comes of it. */
export type ToSlug = (text: string) => string;

/** The tables of sounds are loaded when a rule asks for slugs. */
export async function loadSlugs(): Promise<ToSlug> {
  const [{ default: slugify }, { default: hepburn }] = await Promise.all([
    import("@sindresorhus/slugify"),
    import("hepburn"),
  ]);
  const toSlug = (text: string): string => slugify(text, { decamelize: false });
  return (text) => {
    if (signs.test(text)) return "";
    // Of what stands beside kana only letters and digits are read.
    return hepburn.containsKana(text)
      ? toSlug(hepburn.fromKana(text.replace(/['’]/g, "")).replace(other, ""))
      : toSlug(text);
  };
}

const other = /[^A-Za-z0-9\- ]+/g;

/** Gives out slugs, each once: one that is taken gets a number. */
export class SlugPool {
  readonly #taken = new Set<string>();
  readonly #next = new Map<string, number>();

  take(slug: string): void {
    this.#taken.add(slug);
  }

  give(wanted: string): string {
    let slug = wanted;
    let number = this.#next.get(wanted) ?? 1;
    while (this.#taken.has(slug)) slug = `${wanted}-${++number}`;
    if (number > 1) this.#next.set(wanted, number);
    this.#taken.add(slug);
    return slug;
  }
}
