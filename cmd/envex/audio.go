package main

import (
	"bytes"
	"fmt"

	"github.com/spf13/cobra"

	"envex/core/plan"
	"envex/core/reason"
	"envex/core/signal"
	"envex/core/wav"
	"envex/disk"
)

// This file reads recordings that a command is given, and writes what it renders.

// readDry reads a player's dry recording, brought to the level of the test phrase: 0.1 V rms where
// it is loud. An empty name is the phrase itself.
func readDry(cmd *cobra.Command, name string) ([]float64, error) {
	if name == "" {
		return nil, nil
	}
	channels, _, err := readWAV(cmd, name)
	if err != nil {
		return nil, err
	}
	return signal.Calibrated(channels[0]), nil
}

// readWAV reads a WAV file: its channels at 48 kHz, and what the meter says of it at its own rate.
func readWAV(cmd *cobra.Command, name string) ([][]float64, signal.Measured, error) {
	data, err := readFile(cmd, name, wav.MaxBytes)
	if err != nil {
		return nil, signal.Measured{}, err
	}
	from, err := wav.Open(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, signal.Measured{}, reason.Errorf("%s: %w", name, err)
	}
	meter := signal.NewLoudnessMeter(from.Rate, from.Channels)
	channels, err := from.Read(meter.Push)
	if err != nil {
		return nil, signal.Measured{}, reason.Errorf("%s: %w", name, err)
	}
	return channels, meter.Measured(), nil
}

// writeSound renders a sound to a file, and says so beside the figures, which are the output.
func writeSound(cmd *cobra.Command, p *plan.Plan, rig plan.ID, s plan.Sound, file string, dry []float64) error {
	heard, err := signal.Listen(
		cmd.Context(), p, rig, []signal.Take{{Name: s.Name, Sound: s.ID}}, false, signal.Options{Dry: dry, Kept: kept},
	)
	if err != nil {
		return err
	}
	data, err := wav.Encode(heard[0].L, heard[0].R)
	if err != nil {
		return err
	}
	if err := disk.Write(file, data, 0o644); err != nil {
		return err
	}
	rings := fmt.Sprintf("rings for %.1f s", heard[0].Ring)
	if heard[0].Fade {
		rings += " and was faded out there"
	}
	_, err = fmt.Fprintf(
		cmd.ErrOrStderr(),
		"%s: %.1f LUFS at the microphone, written with %+.1f dB to %s; it %s\n",
		s.Name,
		heard[0].LUFS,
		heard[0].Gain,
		file,
		rings,
	)
	return err
}
