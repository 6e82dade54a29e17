export function makeRough() {}
