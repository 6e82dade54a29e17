/** What the example pages share: the frame with colours and language, signs, addresses. */

export { directionOf, Frame, languageName, useLanguage, type PageLanguage } from "./frame.js";
export { addressOf, goTo, useWhere, type Where } from "./hash.js";
export { Icon, Mark, type IconName } from "./icon.js";
export { SkipLink } from "./skip-link.js";
export { Switches } from "./switches.js";
