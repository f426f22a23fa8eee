package main

import (
	"bufio"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"sync"
)

// app is the process, which may be ended and started again.
type app struct {
	binary, data, addr string
	mu                 sync.Mutex
	cmd                *exec.Cmd
}

func (a *app) start() error {
	cmd := exec.Command(a.binary, "serve", "--people", "--addr", a.addr, "--data", a.data)
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	if err == nil {
		err = cmd.Start()
	}
	if err != nil {
		return err
	}
	if _, err := bufio.NewReader(out).ReadString('\n'); err != nil {
		return fmt.Errorf("it did not start: %w", err)
	}
	go func() { _, _ = io.Copy(io.Discard, out) }()
	a.mu.Lock()
	a.cmd = cmd
	a.mu.Unlock()
	return nil
}

func (a *app) kill() {
	a.mu.Lock()
	defer a.mu.Unlock()
	_ = a.cmd.Process.Kill()
	_ = a.cmd.Wait()
}

// resident gives the memory of the process, in MB.
func (a *app) resident() int {
	a.mu.Lock()
	defer a.mu.Unlock()
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", a.cmd.Process.Pid))
	if err != nil {
		return 0
	}
	for line := range strings.SplitSeq(string(raw), "\n") {
		if kb, is := strings.CutPrefix(line, "VmRSS:"); is {
			n, _ := strconv.Atoi(strings.Fields(kb)[0])
			return n / 1024
		}
	}
	return 0
}
