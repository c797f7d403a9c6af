import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import { ApiProblem } from "@/api/client";
import { router } from "./routes";
import "./theme.css";
import { applyStoredTheme } from "./theme";

applyStoredTheme();

const queries = new QueryClient({
  defaultOptions: {
    // Whether there is a connection is found out by asking: this machine may be the server.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      refetchOnWindowFocus: false,
      // A refusal is an answer; only a lost connection is worth another try.
      retry: (count, error) => !(error instanceof ApiProblem) && count < 2,
    },
  },
});

const root = document.getElementById("root");
if (!root) throw new Error("the page has no root element");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
