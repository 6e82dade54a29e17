/**
 * The functions and operators of expressions with an example each: for docs/reference/expressions.md. A test evaluates each example
 * with `exampleFacts`.
 */

/** One function or operator. */
export interface ExpressionEntry {
  readonly name: string;
  readonly means: string;
  readonly example: string;
  /** What the example gives; `true` and `false` for conditions. */
  readonly gives: string;
}

/** What the examples know of a record. */
export const exampleFacts: Readonly<Record<string, unknown>> = {
  key: "orchard-hive",
  code: "BC-OH",
  name: { en: "Orchard hive", de: "Obstgartenbeute" },
  weight: "14.2",
  prices: { price: "189", cost: "120.50" },
  stock: { Barn: "4" },
  path: ["Hives", "Complete hives"],
  values: { Wood: "Cedar" },
};

const entry = (name: string, means: string, example: string, gives: string): ExpressionEntry => ({
  name,
  means,
  example,
  gives,
});

/** Every function and operator of expressions, with an example and what it gives. */
export const expressionReference: readonly { readonly title: string; readonly entries: readonly ExpressionEntry[] }[] =
  [
    {
      title: "Numbers",
      entries: [
        entry("+ - * /", "Exact decimals. A division keeps 20 decimals.", "prices.cost * 1.9", "228.95"),
        entry("== != < <= > >=", "Numbers are compared by value.", "prices.price > 100", "true"),
        entry("decimal(text)", "A text as an exact decimal.", 'prices.price * decimal("0.9")', "170.1"),
        entry("round(number, places)", "Rounds half up.", "round(prices.cost / 7.0, 2)", "17.21"),
        entry("text(number)", "A number as a text.", '"from " + text(prices.price)', "from 189"),
      ],
    },
    {
      title: "Texts",
      entries: [
        entry("+", "Joins texts.", 'name.en + " (" + values.Wood + ")"', "Orchard hive (Cedar)"),
        entry("size(text)", "The number of characters.", "size(code)", "5"),
        entry("text.upper()", "The text in capitals. `lower()` is its opposite.", "code.upper()", "BC-OH"),
        entry("text.replace(what, by)", "Every occurrence is replaced.", 'code.replace("-", "/")', "BC/OH"),
        entry("text.shorten(most)", "At most so many characters, cut between words.", "name.en.shorten(9)", "Orchard"),
        entry("contains", "Whether a text contains another.", 'name.en.contains("hive")', "true"),
        entry("startsWith", "Whether a text begins with another.", 'code.startsWith("BC-")', "true"),
        entry("endsWith", "Whether a text ends with another.", 'code.endsWith("OH")', "true"),
        entry("matches", "Whether a text matches a regular expression.", 'code.matches("^BC-[A-Z]+$")', "true"),
      ],
    },
    {
      title: "Conditions",
      entries: [
        entry("&& || !", "And, or, not.", 'prices.price > 100 && code != "BC-X"', "true"),
        entry("condition ? a : b", "One of two values.", 'prices.price > 100 ? "large" : "small"', "large"),
        entry("has(field)", "Whether something is there.", "has(prices.offer)", "false"),
        entry("in", "Whether a list contains a value.", 'code in ["BC-OH", "BC-MH"]', "true"),
      ],
    },
    {
      title: "Lists",
      entries: [
        entry("size(list)", "The number of entries.", "size(path)", "2"),
        entry("list[n]", "An entry, counted from 0.", "path[0]", "Hives"),
        entry("exists", "Whether an entry fits a condition.", 'path.exists(one, one.startsWith("Comp"))', "true"),
        entry("all", "Whether all entries fit a condition.", "path.all(one, size(one) > 3)", "true"),
      ],
    },
  ];
