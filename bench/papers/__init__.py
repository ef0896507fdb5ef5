"""Made papers with known facts: one maker to fit the models on, one to calibrate them on, one to judge them by. They share no words and no code."""
