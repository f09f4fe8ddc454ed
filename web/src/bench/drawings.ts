import { ChainDrawing, GapDrawing, HolesDrawing, OpeningDrawing, TacksDrawing } from "./drawFits";
import {
  CutsDrawing,
  FoldDrawing,
  SteamDrawing,
  TakeOffDrawing,
  TankDrawing,
  TaperDrawing,
  ToolingDrawing,
  WireDrawing,
} from "./drawStock";
import { ChassisDrawing, DoorDrawing, type DrawingProps, WheelDrawing } from "./drawVehicles";

/** The drawing of each sum. */
export const DRAWINGS: Record<string, (props: DrawingProps) => React.ReactNode> = {
  "take-off": TakeOffDrawing,
  tacks: TacksDrawing,
  holes: HolesDrawing,
  fold: FoldDrawing,
  gap: GapDrawing,
  opening: OpeningDrawing,
  chassis: ChassisDrawing,
  wheel: WheelDrawing,
  door: DoorDrawing,
  taper: TaperDrawing,
  chain: ChainDrawing,
  cuts: CutsDrawing,
  steam: SteamDrawing,
  tank: TankDrawing,
  wire: WireDrawing,
  tooling: ToolingDrawing,
};
