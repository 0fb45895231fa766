"""From one document to another: patches, retiming, takes, states in between."""
