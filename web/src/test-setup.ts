import { configure } from "@testing-library/react";
import { readIn } from "./format";

// What the suites expect is written as in Britain; other readers have tests of their own.
readIn("en-GB");

// The suites share two cores: what a test waits for may take longer than the library's second.
configure({ asyncUtilTimeout: 6000 });

/** Nothing is laid out here: what asks how large it is hears nothing. A test that needs a size gives one. */
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
