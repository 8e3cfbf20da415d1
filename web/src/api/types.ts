import type { components } from './schema.gen'

type Schemas = components['schemas']

export type WholePlan = Schemas['WholePlan']
export type Gear = Schemas['Gear']
export type Block = Schemas['Block']
export type Control = Schemas['Control']
export type Footswitch = Schemas['Footswitch']
export type Press = Schemas['Press']
export type Action = Schemas['Action']
export type Sound = Schemas['Sound']
export type Song = Schemas['Song']
export type Section = Schemas['Section']
export type SetList = Schemas['SetList']
export type SetEntry = Schemas['SetEntry']
export type Rig = Schemas['Rig']
export type Recipe = Schemas['Recipe']
export type PathNode = Schemas['Node']
export type Split = Schemas['Split']
export type Lane = Schemas['Lane']
export type Destination = Schemas['Destination']
export type Show = Schemas['Show']
export type Fault = Schemas['Fault']
export type Fix = Schemas['Fix']
export type JournalLine = Schemas['JournalLine']
export type Value = Schemas['Value']
export type VariableInfo = Schemas['VariableInfo']
export type Kind = Schemas['Kind']
export type Report = Schemas['ReachReport']
export type Change = Schemas['ReachChange']
export type ReachSection = Schemas['ReachSection']
export type Row = Schemas['ReachRow']
export type BoardReport = Schemas['BoardReport']
export type BoardFinding = Schemas['BoardFinding']
export type BoardLead = Schemas['BoardLeadLine']
export type BoardPlug = Schemas['BoardPlugRoom']
export type BoardComparison = Schemas['BoardComparison']
export type FloorPlan = Schemas['FloorPlan']
export type FloorBox = Schemas['FloorBox']
export type Verdict = Change['verdict']
export type OrderReport = Schemas['OrderReport']
export type OrderFinding = Schemas['OrderFinding']
export type OrderMove = Schemas['OrderMove']
export type OrderWay = Schemas['OrderWay']
export type Solution = Schemas['SwitchSolution']
export type SwitchOutcome = Schemas['SwitchOutcome']
export type Seat = Schemas['SwitchSeat']
export type RepairReport = Schemas['RepairReport']
export type Failure = Schemas['RepairFailure']
export type Repair = Schemas['RepairRepair']
export type RigEdit = Schemas['RepairEdit']
export type Comparison = Schemas['RepairComparison']
export type WhatIf = Schemas['RepairWhatIf']
export type MidiReport = Schemas['LineReport']
export type MidiMonitor = Schemas['LineMonitor']
export type MidiSlot = Schemas['LineSlot']
export type SignalReport = Schemas['SignalReport']
export type SoundFigures = Schemas['SignalSound']
export type GainMap = Schemas['SignalGainMap']
export type GainPoint = Schemas['SignalPoint']
export type GainTarget = Schemas['SignalTarget']
export type Placement = Schemas['SignalPlacement']
export type Placed = Schemas['SignalPlaced']
export type Ladder = Schemas['SignalLadder']
export type Tuning = Schemas['SignalTuning']
export type BoostMove = Schemas['SignalBoostMove']
export type Balance = Schemas['SignalBalance']
export type OrderDifference = Schemas['SignalDifference']
export type ElectricReport = Schemas['ElectricReport']
export type ElectricSound = Schemas['ElectricSound']
export type BufferPlace = Schemas['ElectricBuffer']
export type FuzzCurves = Schemas['ElectricFuzzCurves']
export type Power = Schemas['ElectricPower']
export type PowerLoad = Schemas['ElectricLoad']
export type PowerChoice = Schemas['ElectricChoice']
export type SupplyState = Schemas['ElectricSupplyState']
export type OutputState = Schemas['ElectricOutputState']
export type CableRun = Schemas['OrderRun']
export type PowerFeed = Schemas['PowerFeed']
export type TempoNight = Schemas['TempoNight']
export type TempoUse = Schemas['TempoUse']
export type NoteLength = Schemas['TempoLength']
export type PlayScript = Schemas['PlayScript']
export type PlaySong = Schemas['PlaySong']
export type PlaySection = Schemas['PlaySection']
export type PlaySwitch = Schemas['PlaySwitch']
export type PlayPress = Schemas['PlayPress']
export type PlayResult = Schemas['PlayResult']
export type PlayScore = Schemas['PlayScore']
export type PlayFit = Schemas['PlayFit']
export type PlayMove = Schemas['PlayMove']
export type Rehearsals = Schemas['Rehearsals']
export type Understood = Schemas['Understood']
export type Listening = Schemas['Listening']
export type Traced = Schemas['OrderTraced']
export type ImportResult = Schemas['ImportResult']
export type Transaction = Schemas['Transaction']
export type FootProfile = Schemas['FootProfile']

/** What is saved as a whole, by the name its address has. */
export interface Aggregates {
  gear: Gear
  sounds: Sound
  songs: Song
  'set-lists': SetList
  rigs: Rig
  shows: Show
}

export type Collection = keyof Aggregates

/** Where each kind stands in the whole plan. */
export const listOf = {
  gear: 'gear',
  sounds: 'sounds',
  songs: 'songs',
  'set-lists': 'set_lists',
  rigs: 'rigs',
  shows: 'shows',
} as const satisfies Record<Collection, keyof WholePlan>
export type LayersHeard = Schemas['LayersHeard']
export type TypedChain = Schemas['TypedChain']
export type TypedChip = Schemas['TypedChip']
export type TypedSet = Schemas['TypedSet']
export type Proposal = Schemas['ProposedProposal']
export type ProposedSound = Schemas['ProposedSound']
export type ProposedWay = Schemas['ProposedWay']
export type ExampleRig = Schemas['ExampleRig']
