// Paper needs static font files: variable ones print as outlines without a name.
import "@fontsource/commissioner/latin-700.css";
import "@fontsource/encode-sans/latin-400.css";
import "@fontsource/encode-sans/latin-600.css";
import "@fontsource/encode-sans/latin-700.css";
