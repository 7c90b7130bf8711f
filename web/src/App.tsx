import { CssBaseline, GlobalStyles, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense, useMemo } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { Boundary } from "./shell/Boundary";
import { Patterns } from "./shell/Patterns";
import { ModeProvider, useMode } from "./theme/mode";
import { properties, themeOf } from "./theme/theme";

const Today = lazy(() => import("./stages/today/Today"));
const CarPage = lazy(() => import("./stages/car/CarPage"));
const TakeInPage = lazy(() => import("./stages/takein/TakeInPage"));
const LookPage = lazy(() => import("./stages/look/LookPage"));
const ReadPage = lazy(() => import("./stages/read/ReadPage"));
const PlanPage = lazy(() => import("./stages/plan/PlanPage"));
const LevelPage = lazy(() => import("./stages/level/LevelPage"));

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 2000, refetchOnWindowFocus: true } },
});

function Themed() {
  const { mode } = useMode();
  const theme = useMemo(() => themeOf(mode), [mode]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <GlobalStyles styles={{ ":root": properties(mode) }} />
      <Patterns />
      <BrowserRouter>
        <Boundary>
          <Suspense fallback={null}>
            <Routes>
              <Route path="/" element={<Today />} />
              <Route path="/cars/:carId" element={<CarPage />} />
              <Route path="/take-in" element={<TakeInPage />} />
              <Route path="/cars/:carId/take-in" element={<TakeInPage />} />
              <Route path="/panels/:panelId/look" element={<LookPage />} />
              <Route path="/panels/:panelId/read" element={<ReadPage />} />
              <Route path="/panels/:panelId/plan" element={<PlanPage />} />
              <Route path="/panels/:panelId/level" element={<LevelPage />} />
              <Route path="*" element={<Today />} />
            </Routes>
          </Suspense>
        </Boundary>
      </BrowserRouter>
    </ThemeProvider>
  );
}

export function App() {
  return (
    <QueryClientProvider client={queries}>
      <ModeProvider>
        <Themed />
      </ModeProvider>
    </QueryClientProvider>
  );
}
