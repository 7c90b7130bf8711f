import { useParams } from "react-router";
import { Fresh } from "./Fresh";
import { Known } from "./Known";

export default function TakeInPage() {
  const { carId } = useParams();
  return carId ? <Known key={carId} carId={carId} /> : <Fresh />;
}
