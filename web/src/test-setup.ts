import { configure } from "@testing-library/react";

// The suites share two cores: what a test waits for may take longer than the library's second.
configure({ asyncUtilTimeout: 6000 });
