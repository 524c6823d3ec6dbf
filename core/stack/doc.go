// Package stack computes the parts on each bolt between a display and its
// bracket: the bolt's length, washers, a shoulder washer, spacers, and what
// they bear on.
//
// Everything is measured along the bolt. z points out of the display's back;
// z = 0 is the rest plane, the rearmost surface the bracket's arm has to pass
// over. A hole has a setback b, a recess r with a cup diameter, and a usable
// thread depth D. For a bolt of length L with n washers of thickness t, a
// shoulder washer h, a plate p and spacers of total length s:
//
//	bearing depth     c  = b            (rim)     b + r   (insert)
//	free depth        q  = r            (rim)     0       (insert)
//	arm plane         z  = s − c
//	entry             E  = L − (n·t + h + p + s)
//	engagement        e  = E − q
//	tip clearance     k  = D − e
//	worst engagement  e⁻ = e − δE − δr·[rim]
//	worst clearance   k⁻ = k − δE − δr·[rim] − δD
//	δE = δL + n·δt + δh + δp + Σδs
//
// [Solve] finds the best stack for all groups of equal holes together, since
// they share one bag of parts and must not let the bracket lean. The rules
// and the order of preference are practice; the tolerances are those of
// package fastener and of the figures' origins.
package stack
