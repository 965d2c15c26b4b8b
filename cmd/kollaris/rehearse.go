package main

import "github.com/spf13/cobra"

func rehearseCommand() *cobra.Command { return &cobra.Command{Use: "rehearse", Hidden: true} }
