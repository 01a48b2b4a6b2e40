import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import { SettingsProvider } from "./lib/settings";
import { Underway } from "./lib/underway";
import "./styles.css";

// Always: the server may stand in this house, whatever the browser thinks of the way to the world.
const networkMode = "always";
const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 10_000, networkMode },
    mutations: { networkMode },
  },
});
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Underway />
        <SettingsProvider>
          <App />
        </SettingsProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}

// Where the browser allows it (over HTTPS, or on this very computer) the application opens without a connection, too.
if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () => {
    navigator.serviceWorker.register("/sw.js").catch(() => {});
  });
