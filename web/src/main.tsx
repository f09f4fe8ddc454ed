import "./styles.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { onSignedOut, queries } from "./api/queries";
import { router } from "./router";

// A session that ended elsewhere: the page that was open comes back after signing in again.
onSignedOut(() => void router.navigate({ to: "/sign-in", search: { to: router.state.location.href } }));

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
