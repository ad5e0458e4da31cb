import type { components } from "./schema";

type Schemas = components["schemas"];
export type Act = Schemas["Act"];
export type Caution = Schemas["Caution"];
export type EntryContent = Schemas["EntryContent"];
export type Gaps = Schemas["Gaps"];
export type HandTool = Schemas["HandTool"];
export type Figure = Schemas["Figure"];
export type Given = Schemas["Given"];
export type Job = Schemas["Job"];
export type JobAct = Schemas["JobAct"];
export type JobBolt = Schemas["JobBolt"];
export type JobBolts = Schemas["JobBolts"];
export type JobGroup = Schemas["JobGroup"];
export type JobInput = Schemas["JobInput"];
export type JobRun = Schemas["JobRun"];
export type JobStep = Schemas["JobStep"];
export type JobValue = Schemas["JobValue"];
export type Joint = Schemas["Joint"];
/** A gasketed flange, laid out by the ring planner. */
export type RingJoint = Joint & { draft: Schemas["Draft"] };
/** A joint of any other kind, led by its recipe. */
export type LedJoint = Joint & { job: Job };
export type Library = Schemas["Library"];
export type JointCard = Schemas["JointCard"];
export type Mark = Schemas["Mark"];
export type NewEntry = Schemas["NewEntry"];
export type PassTool = Schemas["PassTool"];
export type PlanInput = Schemas["PlanInput"];
export type PlanResult = Schemas["PlanResult"];
export type Problem = Schemas["Problem"];
export type Quantity = Schemas["Quantity"];
export type Recipe = Schemas["RecipeView"];
export type Run = Schemas["Run"];
/** A run of either form. */
export type AnyRun = Run | JobRun;
export type School = Schemas["School"];
export type Session = Schemas["Session"];
export type TapeLine = Schemas["TapeLine"];
export type ToDo = Schemas["ToDo"];
export type Wall = Schemas["Wall"];
export type WallArea = Schemas["WallArea"];
export type Way = Schemas["Way"];
export type Words = Schemas["Words"];
