/* hw.h: all that Lantern knows of the hardware. The board provides these; nothing else crosses the boundary, and none of
 * them waits. */
#pragma once
#include <stdint.h>
#include <stdbool.h>
#include <stddef.h>

#define HW(name) __attribute__((import_module("hw"), import_name(#name)))
#define EXPORT(name) __attribute__((export_name(#name), used))

enum { PIN_INPUT = 0, PIN_INPUT_PULL_UP = 1, PIN_OUTPUT = 2 };

HW(pin_mode) void hw_pin_mode(int pin, int mode);
HW(pin_write) void hw_pin_write(int pin, int high);
HW(pin_read) int hw_pin_read(int pin);
HW(pwm) void hw_pwm(int pin, uint32_t period_us, uint32_t high_us);
HW(adc) uint32_t hw_adc(int pin);

/* Steps. A run is a row of pulses of one motor: the first `start_ns` after its segment begins, the next `interval_ns`
 * later, each interval `change_ns` longer than the one before. The board plays segments one after another by itself and
 * calls lantern_runs whenever there is room for another. */
struct run {
    uint32_t start_ns, interval_ns;
    int32_t change_ns;
    uint16_t count;
    uint8_t motor;
    uint8_t level; /* of the direction line */
};
HW(motor) void hw_motor(int motor, int step_pin, int dir_pin);
/* A segment of so many ns, with up to one run for each motor. */
HW(runs) void hw_runs(const struct run *runs, uint32_t count, uint32_t length_ns);
/* How many more segments the board takes now. */
HW(runs_room) uint32_t hw_runs_room(void);
/* Ends every run at once and forgets what was handed over. */
HW(runs_halt) void hw_runs_halt(void);
/* Nothing plays and nothing waits. */
HW(runs_over) int hw_runs_over(void);
/* Pulses given with a high direction line less those with a low one, since power-on; wraps. */
HW(steps_made) int32_t hw_steps_made(int motor);
/* While a pin is watched, the first step at which it reads `level` is the last one. -1: none is watched. */
HW(watch) void hw_watch(int pin, int level);
/* The watched pin has ended the runs. */
HW(watch_met) int hw_watch_met(void);

HW(serial_open) void hw_serial_open(uint32_t baud);
/* Takes up to `room` received bytes; how many they were. */
HW(serial_read) uint32_t hw_serial_read(char *to, uint32_t room);
/* How many bytes the transmitter takes now. */
HW(serial_room) uint32_t hw_serial_room(void);
HW(serial_write) void hw_serial_write(int byte);

HW(store_size) uint32_t hw_store_size(void);
HW(store_read) int hw_store_read(uint32_t at);
/* Begins to write a byte; the store is busy until it holds it. */
HW(store_write) void hw_store_write(uint32_t at, int byte);
HW(store_busy) int hw_store_busy(void);
/* A byte of the image's own header. */
HW(flash_read) int hw_flash_read(uint32_t at);
/* Must be called at least once in two seconds; else the board starts anew. */
HW(watchdog) void hw_watchdog(void);
