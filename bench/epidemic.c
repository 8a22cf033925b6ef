/* The model of bench/engine.php as a person would write it in C: three stocks, Runge-Kutta 4. */
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static double now_ms(void) {
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static void rates(double s, double i, double r, double contact, double duration, double waning, double *ds, double *di, double *dr) {
    double islanders = s + i + r;
    double infection = s * contact * i / islanders;
    double recovery = i / duration;
    double losing = r * waning;
    *ds = losing - infection;
    *di = infection - recovery;
    *dr = recovery - losing;
}

int main(int argc, char **argv) {
    long steps = atol(argv[1]);
    double contact = atof(argv[2]), duration = atof(argv[3]), waning = atof(argv[4]), h = atof(argv[5]);
    double begun = now_ms();
    double s = 4190, i = 10, r = 0;
    for (long n = 0; n < steps; n++) {
        double a1, b1, c1, a2, b2, c2, a3, b3, c3, a4, b4, c4;
        rates(s, i, r, contact, duration, waning, &a1, &b1, &c1);
        rates(s + h / 2 * a1, i + h / 2 * b1, r + h / 2 * c1, contact, duration, waning, &a2, &b2, &c2);
        rates(s + h / 2 * a2, i + h / 2 * b2, r + h / 2 * c2, contact, duration, waning, &a3, &b3, &c3);
        rates(s + h * a3, i + h * b3, r + h * c3, contact, duration, waning, &a4, &b4, &c4);
        s += h / 6 * (a1 + 2 * a2 + 2 * a3 + a4);
        i += h / 6 * (b1 + 2 * b2 + 2 * b3 + b4);
        r += h / 6 * (c1 + 2 * c2 + 2 * c3 + c4);
    }
    printf("%.6f %.17g\n", now_ms() - begun, i);
    return 0;
}
