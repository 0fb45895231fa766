"""Keen Ripple: choreographed micro-animations for product interfaces."""
