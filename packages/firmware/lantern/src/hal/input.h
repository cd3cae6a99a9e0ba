/* input.h: a pin that tells of something met: a switch, a probe. */
#pragma once
#include "hal/hw.h"
struct input {
    int16_t pin; /* -1: nothing connected */
    bool pull_up, met_high;
};
static inline void input_start(const struct input *input)
{
    if (input->pin >= 0) hw_pin_mode(input->pin, input->pull_up ? PIN_INPUT_PULL_UP : PIN_INPUT);
}
static inline bool input_met(const struct input *input) { return input->pin >= 0 && (hw_pin_read(input->pin) != 0) == input->met_high; }
