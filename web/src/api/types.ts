import type { components } from './schema'

type Schemas = components['schemas']

export type Job = Schemas['JobOut']
export type JobListed = Schemas['JobListed']
export type Revision = Schemas['RevisionOut']
export type StepDone = Schemas['StepOut']
export type Settings = Schemas['Settings']
export type Finding = Schemas['FindingOut']
export type Verdict = Schemas['VerdictOut']
export type Drawing = Schemas['DrawingOut']
export type Piece = Schemas['PieceOut']
export type Layer = Schemas['LayerOut']
export type LinesSent = Schemas['Lines']
export type MendPreview = Schemas['MendPreviewOut']
export type SheetShown = Schemas['SheetOut']
export type SheetProof = Schemas['SheetProofOut']
export type Sending = Schemas['SendingOut']
export type Program = Schemas['ProgramOut']
export type Proof = Schemas['ProofOut']
export type Library = Schemas['LibraryOut']
export type Sketch = Schemas['SketchOut']
export type Run = Schemas['RunOut']
export type Picture = Schemas['PictureOut']
export type Proposal = Schemas['ProposalOut']
export type Way = Schemas['WayOut']
export type Tiles = Schemas['TilesOut']
export type Measured = Schemas['MeasureOut']
/** Null: what the picture proposes. */
export interface TraceValues {
  threshold: number | null
  smoothness_mm: number | null
  smallest_mm2: number | null
}
export type Station = Schemas['StationEnum']
export type Archive = Schemas['ArchiveOut']
export type Staged = Schemas['StagedOut']
export type Looked = Schemas['LookOut']
export type LikelySize = Schemas['LikelySizeOut']
export type PieceLine = Schemas['PieceLineOut']
export type Reading = Schemas['ReadingOut']
export type NearLine = Schemas['NearLineOut']
export type Between = Schemas['BetweenOut']
export type Weeded = Schemas['WeededOut']
export type FaceShown = Schemas['FaceShown']
export type FacesShown = Schemas['FacesOut']
export type Parameter = Schemas['ParameterOut']
export type Operation = Schemas['OperationOut']
/** Pieces for a step, by role: picked ones, or those that a query means. */
export type Selection = Record<string, { ids?: string[]; query?: string }>
/** What is measured and stays on the work. */
export type Dimension = Schemas['DimensionOut']
/** The target under the design. */
export type Under = NonNullable<Schemas['UnderOut']>
export type Target = Schemas['TargetOut']
