import { testMutations } from "./rich-mutations.js";

testMutations("saltmarsh");
