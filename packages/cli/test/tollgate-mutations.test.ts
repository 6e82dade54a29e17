import { testMutations } from "./rich-mutations.js";

testMutations("tollgate");
