import { CssBaseline, GlobalStyles, ThemeProvider } from "@mui/material";
import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense, useMemo } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { newQueries, prefetch } from "../api/queries";
import { Boundary } from "./Boundary";
import { Patterns } from "../drawing/Patterns";
import { ShopUnits } from "./units";
import { ModeProvider, useMode } from "./theme/mode";
import { properties, themeOf } from "./theme/theme";

const pages = {
  today: () => import("../stages/today/Today"),
  check: () => import("../stages/check/QuickCheck"),
  car: () => import("../stages/car/CarPage"),
  takeIn: () => import("../stages/takein/TakeInPage"),
  look: () => import("../stages/look/LookPage"),
  condition: () => import("../stages/look/ConditionPage"),
  read: () => import("../stages/read/ReadPage"),
  plan: () => import("../stages/plan/PlanPage"),
  level: () => import("../stages/level/LevelPage"),
  prove: () => import("../stages/prove/ProvePage"),
  handOver: () => import("../stages/handover/HandOverPage"),
  offers: () => import("../stages/offers/OffersPage"),
  budget: () => import("../stages/offers/BudgetPage"),
  went: () => import("../stages/went/WentPage"),
  carPlans: () => import("../stages/plan/CarPlansPage"),
  shelf: () => import("../shop/ShelfPage"),
  rules: () => import("../shop/RulesPage"),
  hands: () => import("../shop/HandsPage"),
  shop: () => import("../shop/ShopPage"),
  find: () => import("../shop/FindPage"),
  week: () => import("../stages/week/WeekPage"),
};
const Today = lazy(pages.today);
const QuickCheck = lazy(pages.check);
const CarPage = lazy(pages.car);
const TakeInPage = lazy(pages.takeIn);
const LookPage = lazy(pages.look);
const ConditionPage = lazy(pages.condition);
const ReadPage = lazy(pages.read);
const PlanPage = lazy(pages.plan);
const LevelPage = lazy(pages.level);
const ProvePage = lazy(pages.prove);
const HandOverPage = lazy(pages.handOver);
const CarPlansPage = lazy(pages.carPlans);
const OffersPage = lazy(pages.offers);
const BudgetPage = lazy(pages.budget);
const WentPage = lazy(pages.went);
const ShelfPage = lazy(pages.shelf);
const RulesPage = lazy(pages.rules);
const HandsPage = lazy(pages.hands);
const ShopPage = lazy(pages.shop);
const FindPage = lazy(pages.find);
const WeekPage = lazy(pages.week);

const queries = newQueries();

/** Asks for the page and what it shows side by side, before the first is drawn. */
function warm(path: string): void {
  const [, room = "", id = "", stage = ""] = path.split("/").map(decodeURIComponent);
  if (room === "") {
    void pages.today();
    void prefetch.cars(queries);
  } else if (room === "cars") {
    void (stage === "" ? pages.car() : stage === "plans" ? pages.carPlans() : stage === "hand-over" ? pages.handOver() : pages.takeIn());
    void prefetch.car(queries, id);
  } else if (room === "panels" && stage === "look") {
    void pages.look();
    void prefetch.look(queries, id);
  }
}
warm(location.pathname);

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
          <ShopUnits>
          <Suspense fallback={null}>
            <Routes>
              <Route path="/" element={<Today />} />
              <Route path="/cars/:carId" element={<CarPage />} />
              <Route path="/take-in" element={<TakeInPage />} />
              <Route path="/cars/:carId/take-in" element={<TakeInPage />} />
              <Route path="/panels/:panelId/look" element={<LookPage />} />
              <Route path="/panels/:panelId/condition" element={<ConditionPage />} />
              <Route path="/panels/:panelId/read" element={<ReadPage />} />
              <Route path="/panels/:panelId/plan" element={<PlanPage />} />
              <Route path="/panels/:panelId/level" element={<LevelPage />} />
              <Route path="/panels/:panelId/prove" element={<ProvePage />} />
              <Route path="/cars/:carId/plans" element={<CarPlansPage />} />
              <Route path="/cars/:carId/offers" element={<OffersPage />} />
              <Route path="/cars/:carId/budget" element={<BudgetPage />} />
              <Route path="/cars/:carId/went" element={<WentPage />} />
              <Route path="/cars/:carId/hand-over" element={<HandOverPage />} />
              <Route path="/shelf" element={<ShelfPage />} />
              <Route path="/rules" element={<RulesPage />} />
              <Route path="/hands" element={<HandsPage />} />
              <Route path="/shop" element={<ShopPage />} />
              <Route path="/find" element={<FindPage />} />
              <Route path="/week" element={<WeekPage />} />
              <Route path="/check" element={<QuickCheck />} />
              <Route path="*" element={<Today />} />
            </Routes>
          </Suspense>
          </ShopUnits>
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
