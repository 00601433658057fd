"""What several processes on one or more machines share: who works on what, and which workers are alive."""
