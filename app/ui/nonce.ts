import { createContext } from "react";

/** Script nonce of the response being rendered; empty in the browser, where it is not needed. */
export const NonceContext = createContext("");
