package main

import (
	"encoding/json"
	"fmt"
	"math"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"talloak/instruments/simulated"
	"talloak/practice"
)

func instrumentsCommand() *cobra.Command {
	listen, scenario, seed, speed := "127.0.0.1:0", "", uint64(1), 1.0
	cmd := &cobra.Command{
		Use:   "instruments",
		Short: "Serve simulated instruments on loopback, one line of JSON each once they listen",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if !(speed > 0) || math.IsInf(speed, 0) {
				return fmt.Errorf("the speed is how many times faster than life it goes, above 0")
			}
			scene, err := sceneOf(scenario, seed)
			if err != nil {
				return err
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			served, wait, err := simulated.NewBench(scene, seed, speed).Listen(ctx, listen)
			if err != nil {
				return err
			}
			enc := json.NewEncoder(cmd.OutOrStdout())
			for _, s := range served {
				if err := enc.Encode(s); err != nil {
					return err
				}
			}
			<-ctx.Done()
			wait()
			return nil
		},
	}
	cmd.Flags().StringVar(&listen, "listen", listen, "address on loopback; with a port, it and the next five")
	cmd.Flags().StringVar(&scenario, "scenario", "", "what is on the bench; none is a radio of 5 W at 146.52 MHz")
	cmd.Flags().Uint64Var(&seed, "seed", seed, "the same seed and the same commands give the same answers")
	cmd.Flags().Float64Var(&speed, "speed", speed, "how many times faster than life")
	return cmd
}

// sceneOf is the bench of a scenario: none is the plain one, receiver has the generator at the antenna,
// and every scenario of practice has its own, with all that is hidden in it.
func sceneOf(name string, seed uint64) (simulated.Scene, error) {
	if name == "" || name == "receiver" {
		return simulated.DefaultScene(seed, name == "receiver"), nil
	}
	s, err := practice.Find(name)
	if err != nil {
		return simulated.Scene{}, fmt.Errorf("there is no scenario %q", name)
	}
	return s.WholeScene(seed)
}
