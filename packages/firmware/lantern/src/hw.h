/* hw.h: all that Lantern knows of the hardware. The board provides these; nothing else crosses the boundary. */
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
/* One short pulse on a step input; its width is the board's affair. */
HW(step) void hw_step(int pin);
HW(pwm) void hw_pwm(int pin, uint32_t period_us, uint32_t high_us);
HW(adc) uint32_t hw_adc(int pin);
HW(serial_open) void hw_serial_open(uint32_t baud);
/* The next received byte, or -1. */
HW(serial_read) int hw_serial_read(void);
HW(serial_write) void hw_serial_write(int byte);
/* Microseconds since power-on; wraps after 71 minutes, so only differences may be used. */
HW(clock_us) uint32_t hw_clock_us(void);
/* Asks for one call of lantern_timer after so many nanoseconds; a later call replaces an earlier one, 0 disarms. */
HW(timer) void hw_timer(uint32_t after_ns);
HW(store_size) uint32_t hw_store_size(void);
HW(store_read) int hw_store_read(uint32_t at);
HW(store_write) void hw_store_write(uint32_t at, int byte);
/* A byte of the image's own header. */
HW(flash_read) int hw_flash_read(uint32_t at);
HW(watchdog) void hw_watchdog(void);
