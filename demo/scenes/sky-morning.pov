// A clear morning sky with high, separate clouds over open water.
#version 3.7;
#include "lantern-quay.inc"
global_settings{ assumed_gamma 1.0 max_trace_level 4 }
#default{ finish{ ambient 0 diffuse 0.8 } }
camera{ perspective location <0,2.0,-17> look_at <0,5.4,0> right x*image_width/image_height up y angle 56 }
CloudDome(srgb <0.20,0.43,0.74>, srgb <0.80,0.88,0.93>, 0.75, rgb <0.96,0.96,0.95>, rgb <0.55,0.60,0.67>, 0.34, <7.7,2.2,1.4>, <0.26,0.085,0.24>)
#if (!MATTE) light_source{ <-80,70,-40> rgb <0.7,0.68,0.62> shadowless } #end
#declare Ridge = function{ pattern{ bozo warp{ turbulence 0.7 octaves 6 omega 0.5 } scale 0.16 } }
height_field{ function 600,120 { 0.2+0.8*Ridge(x+1.9,y*0.3,6.3)*sin(pi*y) } smooth translate <-0.5,0,-0.5> scale <320,9,60> translate <0,-4,160>
  Around(texture{ pigment{ granite scale 12 color_map{ [0 srgb <0.52,0.60,0.66>][1 srgb <0.58,0.65,0.69>] } } finish{ diffuse 0.7 emission 0.12 } }) }
plane{ y,-0.2 Around(texture{ pigment{ srgb <0.12,0.24,0.31> } normal{ average normal_map{ [1 bumps 0.045 scale <1.8,1,0.5>][1 wrinkles 0.025 scale <0.9,1,0.25>] } } finish{ diffuse 0.25 reflection{ 0.04,0.9 falloff 3.2 } conserve_energy } }) }
