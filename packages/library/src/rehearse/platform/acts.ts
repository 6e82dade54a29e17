/** What the cells of a row ask a platform to do, column by column: judged by the rules of the columns, blanks by what a blank means there. */

import type { CellValue } from "../../codecs/codec.js";
import type { Header } from "../../nominal.js";
import { addressOf } from "../../target/generated.js";
import type { Use } from "./columns.js";
import type { Act } from "./effects/effect.js";

/** A row, and how what is wrong with it is told. */
export interface ActPlace {
  /** The text of a cell; undefined where the file does not have the column. */
  cell(header: Header): string | undefined;
  /** Whether what the row is about is new. */
  readonly isNew: boolean;
  /** Whether the row is in another language than the file's first: then it says what has a language, and no more. */
  readonly isTranslation: boolean;
  hasPicture(name: string): boolean;
  readonly missingPictures: "refuse" | "left out" | "awaited";
  refuse(reason: string): void;
  note(note: string): void;
}

const leave: Act = { is: "leave" };

/** What a cell asks for. What is wrong with it refuses the row. */
export function actOf(use: Use, place: ActPlace): Act {
  const text = place.cell(use.header);
  if (text === undefined || text === "") return ofBlank(use, text, place);
  const judged = use.judge(text);
  if (judged.is === "refused") {
    place.refuse(judged.reason);
    return leave;
  }
  if (judged.cut) place.note(`${use.header} is cut`);
  return use.rule?.picture ? { is: "say", value: picturesIn(use, judged.value, place) } : judged;
}

function ofBlank({ header, rule, dependsOnLanguage, feed }: Use, text: string | undefined, place: ActPlace): Act {
  if (place.isTranslation && !dependsOnLanguage) return leave;
  const { isNew } = place;
  if (isNew && rule?.required) {
    place.refuse(`${header}: needed`);
    return leave;
  }
  if (text === "" && rule?.blank === "refuse") {
    place.refuse(`${header}: blank`);
    return leave;
  }
  if (!isNew && (text === undefined || rule?.blank === "leave" || rule?.blank === "generate")) return leave;
  if (rule?.blank === "generate")
    return { is: "begin", text: addressOf(place.cell(rule["generated from"] ?? "") ?? "", rule["characters at most"]) };
  const start = rule?.["starts as"];
  if (start !== undefined) return { is: "begin", text: start };
  // What is told in a column that the file does not have is nothing new.
  return text === undefined && feed.is !== "entry" ? leave : { is: "clear" };
}

/** The pictures that are there, blank in the place of one that is not; what becomes of that is the platform's rule. */
function picturesIn({ header }: Use, value: CellValue, place: ActPlace): CellValue {
  const { missingPictures } = place;
  const thereOf = (name: string) => (missingPictures === "awaited" || place.hasPicture(name) ? name : "");
  const wanted = typeof value === "string" ? [value] : (value as readonly string[]);
  const there = wanted.map(thereOf);
  if (there.includes("")) {
    if (missingPictures === "refuse") place.refuse(`${header}: a picture is not there`);
    else place.note("a picture is not there and is left out");
  }
  return typeof value === "string" ? (there[0] ?? "") : there;
}
