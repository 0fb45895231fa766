"""What happens when somebody acts, and where one motion meets another: interruption, rehearsal, overlap."""
