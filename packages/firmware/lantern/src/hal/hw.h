/* hw.h: all that Lantern knows of the hardware. The board provides these; nothing else crosses the boundary, and none of
 * them waits. */
#pragma once
#include <stdint.h>
#include <stdbool.h>
#include <stddef.h>

#define HW(name) __attribute__((import_module("hw"), import_name(#name)))
#define EXPORT(name) __attribute__((export_name(#name), used))
/* Stays a function of its own however hard the compiler tries: every build is looked through for what guards. */
#define STANDS __attribute__((noinline))

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
/* With the length of its pulses, and how long its direction line stands before the first of them. */
HW(motor) void hw_motor(int motor, int step_pin, int dir_pin, uint32_t pulse_ns, uint32_t setup_ns);
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

/* Driver modules that listen: on a serial line (from 1) at an address, or with line 0 at a select pin. */
enum { DRIVER_CURRENT_MA, DRIVER_FORCE_FROM, DRIVER_STALL_LEVEL, DRIVER_STATE, DRIVER_DEGREES };
/* Bits of DRIVER_STATE. */
enum { DRIVER_IS_HOT = 1, DRIVER_IS_OFF = 2, DRIVER_IS_OPEN = 4 };
HW(driver_write) void hw_driver_write(int line, int address, int what, int32_t value);
/* -1: nobody answers. */
HW(driver_read) int32_t hw_driver_read(int line, int address, int what);

/* A byte to a display that has a serial port of its own. */
HW(panel_write) void hw_panel_write(int port, int byte);
/* The display's memory: letters row by row, or eight rows of pixels a byte. And its knob: steps since it was last asked (right is
 * plus), and whether it was pressed. */
HW(display) void hw_display(uint32_t at, int byte);
HW(knob_turned) int hw_knob_turned(void);
HW(knob_pressed) int hw_knob_pressed(void);
/* Of a display with a layer that is touched: 12 bits across, then 12 bits down, in the layer's own counting; -1 without a finger. */
HW(touch) int32_t hw_touch(void);

/* Serial ports are counted from 0; the first faces the host. */
HW(serial_open) void hw_serial_open(int port, uint32_t baud);
/* Takes up to `room` received bytes; how many they were. */
HW(serial_read) uint32_t hw_serial_read(char *to, uint32_t room);
/* How many bytes the transmitter takes now. */
HW(serial_room) uint32_t hw_serial_room(void);
HW(serial_write) void hw_serial_write(int byte);

/* A memory card: blocks of 512 bytes. Each takes about 0.2 ms; 0 when it could not be done. */
HW(card_there) int hw_card_there(void);
HW(card_read) int hw_card_read(uint32_t block, void *to);
HW(card_write) int hw_card_write(uint32_t block, const void *from);

HW(store_size) uint32_t hw_store_size(void);
HW(store_read) int hw_store_read(uint32_t at);
/* Begins to write a byte; the store is busy until it holds it. */
HW(store_write) void hw_store_write(uint32_t at, int byte);
HW(store_busy) int hw_store_busy(void);
/* A byte of the image's own header. */
HW(flash_read) int hw_flash_read(uint32_t at);
/* Must be called at least once in two seconds; else the board starts anew. */
HW(watchdog) void hw_watchdog(void);
